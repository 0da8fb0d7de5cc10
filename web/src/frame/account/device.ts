/** What a browser runs on, by what it says of itself: which make it is concerns nobody. */
export function deviceOf(agent: string): string {
  if (!agent) return "not known";
  return /Mobi/.test(agent) ? "Phone" : "Computer";
}
