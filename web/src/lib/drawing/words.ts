/** Words in the room that a drawing has for them, by the usual width of their letters in pixels. */
const NARROW = 6.4;

/** Whether a text has room beside its inset. */
export const fits = (text: string, room: number, letter = 6.9): boolean => text.length * letter < room;

/** A text cut to its room, two letters at least. */
export function short(text: string, room: number, letter = NARROW): string {
  const letters = Math.floor(room / letter);
  return text.length <= letters ? text : `${text.slice(0, Math.max(letters - 1, 2))}…`;
}

/** Rising heights of labels moved apart, none below the lowest: down where they meet, back up where they would fall out. */
export function apart(heights: number[], least: number, lowest: number): number[] {
  const placed: number[] = [];
  for (const height of heights) placed.push(Math.max(height, (placed.at(-1) ?? -Infinity) + least));
  for (let i = placed.length - 1, limit = lowest; i >= 0; i -= 1, limit = placed[i + 1]! - least)
    placed[i] = Math.min(placed[i]!, limit);
  return placed;
}
