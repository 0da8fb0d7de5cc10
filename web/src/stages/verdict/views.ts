/** What Verdict answers, in the order in which it is asked. */
export const VIEWS = [
  { id: "", name: "Run by run", says: "did it do what was predicted, and what held it back?" },
  { id: "compare", name: "Compare", says: "which of two is better?" },
  { id: "learn", name: "Learn", says: "what do the runs say about tomorrow?" },
  { id: "series", name: "Series", says: "every run in one table" },
] as const;
