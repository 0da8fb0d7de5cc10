/** What the document says of the work: rules and steps of the designer's own, what is in hand, what is looked after. */
import type { BuildDocument } from "./build";
import { freeId } from "./ids";
import type { Schemas } from "../api/client";

export type StepTold = Schemas["StepTold"];
export type Stock = NonNullable<Schemas["PartRow"]["stock"]>;

/** First before then, because why; a rule of the same two takes the place of the one that was there. */
export function addRule(draft: BuildDocument, first: string, then: string, why: string): void {
  draft.assembly = draft.assembly.filter((rule) => !(rule.first === first && rule.then === then));
  draft.assembly.push({ first, then, why });
}

/** Krill's proposal that first comes before then does not hold here. */
export function dropRule(draft: BuildDocument, first: string, then: string, why = ""): void {
  draft.assembly = draft.assembly.filter((rule) => !(rule.first === first && rule.then === then));
  draft.assembly.push({ first, then, why, holds: false });
}

export function removeRule(draft: BuildDocument, at: number): void {
  draft.assembly.splice(at, 1);
}

/** A step or gate of one's own. */
export function addStep(draft: BuildDocument, name: string, more: Partial<StepTold> = {}): string {
  const id = freeId(draft, name);
  draft.steps.push({ id, name, ...more });
  return id;
}

/** Say something of a step: of one's own, or of one that Krill proposes. */
export function tellStep(draft: BuildDocument, step: string, change: Partial<StepTold>): void {
  const own = draft.steps.find((one) => one.id === step || one.at === step);
  if (own) Object.assign(own, change);
  else draft.steps.push({ id: freeId(draft, `step-${step}`), at: step, ...change });
}

export function removeStep(draft: BuildDocument, id: string): void {
  draft.steps = draft.steps.filter((one) => one.id !== id);
  leaveOrder(draft);
}

const bought = (draft: BuildDocument, id: string) => [...draft.parts, ...draft.feeds].find((one) => one.id === id);

/** Whether a part or feed is in hand, and when it is expected. */
export function setStock(draft: BuildDocument, id: string, stock: Stock | null, dueOn?: string | null): void {
  const item = bought(draft, id);
  if (!item) return;
  item.stock = stock;
  item.due_on = stock === "ordered" ? (dueOn ?? item.due_on ?? null) : null;
}

export function setPrice(draft: BuildDocument, id: string, price: number | null): void {
  const item = bought(draft, id);
  if (item) item.price = price;
}

export function addDue(draft: BuildDocument, what: string, days: number, part: string | null): void {
  draft.dues.push({ id: freeId(draft, `due-${what}`), what, every_days: days, part });
}

/** Ids that an order may name beside those of the document. */
const ALWAYS =
  /^(gate-(bench-start|memory-found|fans-turn|loop-closed|pump-moves|leak-watch|image|earth|insulated|last-start)|firmware|close-panels|cut-(top|bottom|left|right|front|back))$/;

/** Rules, steps, dues and feeds end somewhere after something was removed. */
export function leaveOrder(draft: BuildDocument): void {
  const parts = new Set(draft.parts.map((part) => part.id));
  const things = [...draft.leads, ...draft.insulators, ...draft.loops, ...draft.steps].map((one) => one.id);
  const known = new Set([...parts, ...things]);
  const stands = (id: string) => known.has(id) || ALWAYS.test(id) || parts.has(id.replace(/^(prepare|leads-of)-/, ""));
  draft.assembly = draft.assembly.filter((rule) => stands(rule.first) && stands(rule.then));
  draft.steps = draft.steps.filter((step) => !step.at || stands(step.at));
  for (const step of draft.steps) if (step.sees) step.sees = step.sees.filter(stands);
  draft.dues = draft.dues.filter((due) => !due.part || parts.has(due.part));
  const feeds = new Set([...draft.feeds.map((feed) => feed.id), ...parts]);
  for (const feed of draft.feeds) if (feed.fed_by && !feeds.has(feed.fed_by)) feed.fed_by = null;
  for (const part of draft.parts) {
    if (part.feed && !feeds.has(part.feed)) part.feed = null;
    if (part.also_fed) part.also_fed = part.also_fed.filter((feed) => feeds.has(feed));
  }
}
