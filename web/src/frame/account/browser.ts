const KNOWN: [RegExp, string][] = [
  [/Firefox\//, "Firefox"],
  [/Edg\//, "Edge"],
  [/Chrom(e|ium)\//, "Chromium"],
  [/Safari\//, "Safari"],
];
const SYSTEMS: [RegExp, string][] = [
  [/Android/, "Android"],
  [/iPhone|iPad/, "iOS"],
  [/Windows/, "Windows"],
  [/Mac OS/, "macOS"],
  [/Linux/, "Linux"],
];

/** What a browser says of itself, in two words; else its first forty characters. */
export function browserOf(agent: string): string {
  const browser = KNOWN.find(([says]) => says.test(agent))?.[1];
  const system = SYSTEMS.find(([says]) => says.test(agent))?.[1];
  if (browser) return system ? `${browser} on ${system}` : browser;
  return agent.slice(0, 40) || "not known";
}
