import createClient, { type Middleware } from "openapi-fetch";
import type { Readable } from "openapi-typescript-helpers";
import type { components, paths } from "./schema";

/** Schemas as the client hands them out: it reads tuples as plain lists. */
export type Schemas = { [Name in keyof components["schemas"]]: Readable<components["schemas"][Name]> };
export type Prediction = Schemas["Prediction"];
export type WorkloadResult = Schemas["WorkloadResult"];
export type PlaceResult = Schemas["PlaceResult"];
export type LoopResult = Schemas["LoopResult"];
export type RunOut = Schemas["RunOut"];
export type Fault = Schemas["Fault"];

export function cookie(name: string, from = document.cookie): string | undefined {
  return from
    .split("; ")
    .find((c) => c.startsWith(`${name}=`))
    ?.slice(name.length + 1);
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (!["GET", "HEAD", "OPTIONS"].includes(request.method)) {
      request.headers.set("X-CSRFToken", cookie("csrftoken") ?? "");
    }
    return request;
  },
};

/** What a gateway says, and we ourselves, where no server answers. */
const NO_SERVER = [502, 503, 504];
export const isGone = (response: Response): boolean => NO_SERVER.includes(response.status);

const NO_ANSWER = { where: "server", what: "Krill does not answer", allowed: "" };

/** A call that reaches no server ends like any other refusal, so that nobody waits for ever on a thrown error. */
export const unreachable = { onError: () => Response.json({ errors: [NO_ANSWER] }, { status: 503 }) };

export const client = createClient<paths>({ baseUrl: "/", credentials: "same-origin" });
client.use(csrf, unreachable);

/** The faults of an answer, in the one shape; a sentence of our own where there was no answer at all. */
export function faultsOf(error: unknown): Fault[] {
  const errors = (error as { errors?: Fault[] } | undefined)?.errors;
  return errors ?? [NO_ANSWER];
}

export function sentence(fault: Fault): string {
  return `${fault.where}: ${fault.what}${fault.allowed ? `; allowed: ${fault.allowed}` : ""}`;
}

/** A text file of the API, or its faults. */
export async function download(path: string): Promise<{ text?: string; faults?: Fault[] }> {
  const answer = await fetch(path, { credentials: "same-origin" }).catch(() => undefined);
  if (answer?.ok) return { text: await answer.text() };
  return { faults: faultsOf(await answer?.json().catch(() => undefined)) };
}

/** Send files and fields in one form. */
async function upload<T>(path: string, form: FormData): Promise<{ data?: T; error?: unknown }> {
  const answer = await fetch(path, {
    method: "POST",
    body: form,
    headers: { "X-CSRFToken": cookie("csrftoken") ?? "" },
    credentials: "same-origin",
  }).catch(() => undefined);
  const body = await answer?.json().catch(() => undefined);
  return answer?.ok ? { data: body as T } : { error: body };
}

function formOf(fields: Record<string, string | File>): FormData {
  const form = new FormData();
  for (const [key, value] of Object.entries(fields)) form.append(key, value);
  return form;
}

/** Store a log file; fields go beside it in the same form. */
export const uploadLog = (buildId: string, file: File, fields: Record<string, string>) =>
  upload<RunOut>(`/api/builds/${buildId}/runs/log`, formOf({ ...fields, file }));

/** A run from its own file, with its log where it has one. */
export const uploadRun = (buildId: string, file: File, log: File | undefined) =>
  upload<RunOut>(`/api/builds/${buildId}/runs/file`, formOf(log ? { file, log } : { file }));

/** A picture of a run, with what is written under it. */
export const uploadPicture = (runId: string, file: File, caption: string) =>
  upload<RunOut>(`/api/runs/${runId}/pictures`, formOf({ file, caption }));

/** A picture of a step of the work; every picture that is kept comes back. */
export const uploadStepPicture = (buildId: string, about: string, file: File) =>
  upload<Schemas["StepPictureOut"][]>(`/api/builds/${buildId}/step-pictures`, formOf({ about, file }));

/** A build with revisions, runs and logs from its archive. */
export const uploadArchive = (file: File) => upload<Schemas["BuildOut"]>("/api/archives", formOf({ file }));
