/** All numbers on the screen pass through here: fixed decimals, a real minus sign, units beside them. */
export function fixed(value: number | null | undefined, decimals = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

export function signed(value: number | null | undefined, decimals = 1): string {
  const text = fixed(value, decimals);
  return text === "–" || text.startsWith("−") ? text : `+${text}`;
}

/** A figure of any size as people would write it: four digits that count, no noughts behind them. */
export function significant(value: number | null | undefined, digits = 4): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  return String(Number(value.toPrecision(digits))).replace("-", "−");
}

export const celsius = (value: number | null | undefined, decimals = 1) => `${fixed(value, decimals)} °C`;
export const kelvins = (value: number | null | undefined, decimals = 1) => `${fixed(value, decimals)} K`;
/** A sound level; a machine that nothing turns in is silent, not at 0.0 dBA. */
export const level = (value: number | null | undefined) =>
  value !== null && value !== undefined && value <= 0 ? "silent" : `${fixed(value)} dBA`;
export const watts = (value: number | null | undefined) =>
  `${fixed(value, value !== null && value !== undefined && Math.abs(value) < 10 ? 1 : 0)} W`;

/** Half the width of a band. */
export function half(band: { low: number; high: number } | null | undefined): number | null {
  return band ? (band.high - band.low) / 2 : null;
}

/** A number as people type it: comma or point; null where it is none. */
export function parseNumber(text: string): number | null {
  const clean = text.trim().replace("−", "-").replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}

const MONTH = new Intl.DateTimeFormat("en-US", { month: "short" });
const CLOCK = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

const DATE_ONLY = /^\d{4}-\d{2}-\d{2}$/;

/** When a day without a time begins here: read as UTC it would be the day before in the west. */
export const midnight = (date: string): Date => new Date(`${date}T00:00`);

/** A day that reads the same everywhere: 26 Nov 2026. */
export function day(at: Date | string): string {
  const date = typeof at === "string" && DATE_ONLY.test(at) ? midnight(at) : new Date(at);
  return `${date.getDate()} ${MONTH.format(date)} ${date.getFullYear()}`;
}

/** The time of a day, 24 hours: 09:05. */
export const clock = (at: Date | string): string => CLOCK.format(new Date(at));

export const sentenceCase = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
