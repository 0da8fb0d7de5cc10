import { client, faultsOf, uploadStepPicture, type Fault, type Schemas } from "../api/client";

export type StepPicture = Schemas["StepPictureOut"];

/** Pictures of the steps of a build; they need a network. */
export class StepPictures {
  kept = $state.raw<StepPicture[]>([]);
  faults = $state.raw<Fault[]>([]);
  busy = $state(false);
  #id = "";

  async open(id: string) {
    this.#id = id;
    const { data } = await client.GET("/api/builds/{build_id}/step-pictures", { params: { path: { build_id: id } } });
    if (this.#id === id) this.kept = data ?? [];
  }

  of = (about: string): StepPicture[] => this.kept.filter((one) => one.about === about);
  source = (one: StepPicture): string => `/api/builds/${this.#id}/step-pictures/${one.sha256}`;

  async add(about: string, files: Iterable<File>) {
    this.busy = true;
    this.faults = [];
    for (const file of files) {
      const { data, error } = await uploadStepPicture(this.#id, about, file);
      if (data) this.kept = data;
      else this.faults = [...this.faults, ...faultsOf(error)];
    }
    this.busy = false;
  }

  async remove(one: StepPicture) {
    const path = { build_id: this.#id, sha256: one.sha256 };
    const { data, error } = await client.DELETE("/api/builds/{build_id}/step-pictures/{sha256}", { params: { path } });
    this.faults = data ? [] : faultsOf(error);
    if (data) this.kept = data;
  }
}
