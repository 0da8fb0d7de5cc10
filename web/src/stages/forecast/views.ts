/** What Forecast answers, in the order in which it is asked. */
export const VIEWS = [
  { id: "", name: "Every part", says: "will it hold?" },
  { id: "time", name: "In time", says: "how long must it run?" },
  { id: "size", name: "Size it", says: "what do I buy?" },
  { id: "map", name: "Map", says: "two figures over each other" },
  { id: "solve", name: "Solve for", says: "one figure for what is wanted" },
  { id: "fan-curve", name: "Fan curve", says: "points for a firmware" },
  { id: "measure", name: "Measure first", says: "what makes the band wide" },
  { id: "beside", name: "Side by side", says: "two to five options" },
] as const;
