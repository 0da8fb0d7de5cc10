// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildDocument } from "$lib/document/build";
import { classes } from "$lib/state/classes.svelte";

const { GET, PATCH, POST } = vi.hoisted(() => ({ GET: vi.fn(), PATCH: vi.fn(), POST: vi.fn() }));
vi.mock("$lib/api/client", async (original) => ({
  ...(await original<typeof import("$lib/api/client")>()),
  client: { GET, PATCH, POST },
}));
const { BuildState } = await import("$lib/state/build.svelte");
const { default: PartSheet } = await import("./PartSheet.svelte");

const DOCUMENT = {
  format: "krill-build",
  version: 1,
  name: "Heron",
  rooms: [{ id: "room", air_c: 24 }],
  workloads: [],
  parts: [
    { id: "tube", kind: "tube", name: "Tube", class: "tube_soft", length_m: { value: 2, from: "estimate" } },
    { id: "coupling", kind: "coupling", name: "Coupling", class: "coupling_large" },
    { id: "paste", kind: "interface", name: "Paste", class: "paste_ordinary_lid" },
  ],
  loops: [{ id: "loop-a", name: "Loop A", elements: ["tube", "coupling"], coolant: { fluid: "water" } }],
  routes: [{ id: "r", place: "chip", hops: [{ id: "hop", kind: "interface", part: "paste" }] }],
};
const tube = (id: string, name: string, bore: number) => ({ id, kind: "tube", name, figures: { bore_mm: [bore, 1] } });

async function sheet(address: string, role = "owner") {
  GET.mockImplementation((path: string) =>
    Promise.resolve({
      data: path.startsWith("/api/builds") ? { id: "b1", role, sequence: 1, document: structuredClone(DOCUMENT) } : [],
      response: new Response(),
    }),
  );
  PATCH.mockResolvedValue({ data: { role, sequence: 2, prediction: null, unsolved: [] }, response: new Response() });
  const build = new BuildState();
  await build.open("b1");
  build.sheet = address;
  const view = render(PartSheet, { build, address });
  const part = <Field>(id: string, field: string) =>
    (build.document as BuildDocument).parts.find((own) => own.id === id)?.[field as never] as Field;
  return { build, part, ...view };
}
const input = (name: string) => screen.getByRole<HTMLInputElement>("textbox", { name: new RegExp(`^${name}`) });

beforeEach(() => {
  vi.clearAllMocks();
  classes.all = [tube("tube_soft", "Soft tube 10/16", 10), tube("tube_hard", "Hard tube 10/14", 10)] as never;
});

describe("the side sheet", () => {
  it("has the name of its part, its class, what is stated and what the class says", async () => {
    await sheet("tube");
    expect(screen.getByRole("heading", { name: "Tube" })).toBeTruthy();
    expect(screen.getByRole<HTMLSelectElement>("combobox", { name: /^Class/ }).value).toBe("tube_soft");
    expect(input("length").value).toBe("2");
    expect(input("bore").value).toBe("10");
  });

  it("states a figure under the name of its part; it is nobody's estimate any more", async () => {
    const { build, part } = await sheet("tube");
    await userEvent.clear(input("length"));
    await userEvent.type(input("length"), "3");
    expect(part("tube", "length_m")).toBe(3);
    await build.flush();
    expect(PATCH.mock.lastCall![1].body.label).toBe("Tube: length");
    expect(PATCH.mock.lastCall![1].body.patch).toContainEqual({
      op: "replace",
      path: "/parts/0/length_m",
      value: 3,
    });
  });

  it("takes another class", async () => {
    const { part } = await sheet("tube");
    await userEvent.selectOptions(screen.getByRole("combobox", { name: /^Class/ }), "Hard tube 10/14");
    expect(part("tube", "class")).toBe("tube_hard");
  });

  it("of a coupling parts and joins it", async () => {
    const { part } = await sheet("coupling");
    const joined = screen.getByRole<HTMLInputElement>("checkbox", { name: /joined/ });
    expect(joined.checked).toBe(true);
    await userEvent.click(joined);
    expect(part("coupling", "joined")).toBe(false);
  });

  it("takes a part out of the build and of its loop, and closes", async () => {
    const { build, part } = await sheet("coupling");
    await userEvent.click(screen.getByRole("button", { name: "Take out of the build" }));
    expect(part("coupling", "id")).toBeUndefined();
    expect(build.document?.loops[0]?.elements).toEqual(["tube"]);
    expect(build.sheet).toBeNull();
  });

  it("of a hop is that of the part that it goes through", async () => {
    await sheet("hop");
    expect(screen.getByRole("heading", { name: "Paste" })).toBeTruthy();
  });

  it("says so where an address belongs to no single part", async () => {
    const { build } = await sheet("nothing/here");
    expect(screen.getByText("This belongs to no single part.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Esc: close the sheet" }));
    expect(build.sheet).toBeNull();
  });

  it("lets a reader read", async () => {
    await sheet("tube", "reader");
    expect(input("length").disabled).toBe(true);
    expect(screen.getByRole<HTMLSelectElement>("combobox", { name: /^Class/ }).disabled).toBe(true);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Take out of the build" }).disabled).toBe(true);
  });
});
