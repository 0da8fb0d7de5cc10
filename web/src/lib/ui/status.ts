const COLOURS: Record<string, string> = {
  holds: "var(--holds)",
  tight: "var(--tight)",
  "too hot": "var(--too-hot)",
  throttled: "var(--too-hot)",
};

export const statusColour = (status: string | undefined) => COLOURS[status ?? ""] ?? "var(--soft)";
