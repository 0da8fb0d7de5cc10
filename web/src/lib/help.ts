/** What a stage answers, what to enter first, and its keys: shown by "?" and, short, on the first visit. */
export type Help = { answers: string; first: string[]; keys: [string, string][] };

export const HELP: Record<string, Help> = {
  brief: {
    answers: "What the machine is for, how warm the room gets, how loud it may be, how much margin you want.",
    first: ["the purpose in one line", "coolest and hottest room", "a sound ceiling for each workload"],
    keys: [],
  },
  heat: {
    answers: "What every part draws for long in every workload, and up to what temperature it may go.",
    first: [
      "your own watts in place of the guesses",
      "which workload is the worst",
      "whether watts are of the chip, the package or the board",
    ],
    keys: [
      ["Enter on a name", "opens a source or workload"],
      ["Alt ↑ ↓ ← →", "orders sources and workloads"],
      ["Paste", "a column of a spreadsheet fills cells downwards"],
    ],
  },
  route: {
    answers: "Where the kelvins of each part are lost, who warms whom, and what would win most.",
    first: [
      "the pastes and pads that you have",
      "plates, pipes and coolers from the shelf",
      "open a block and replace its guess",
    ],
    keys: [
      ["← → ↑ ↓", "from block to block of the terraces, Enter opens"],
      ["Alt ← →", "moves a bead along its loop, Del takes it out"],
      ["a", "adds a part, a source or a whole set"],
    ],
  },
  air: {
    answers: "Where air enters and leaves, how much, how warm, and what the fans have to work against.",
    first: ["the area and pattern of each opening", "which way every fan blows", "what stands close before a face"],
    keys: [
      ["f", "flips the path in view"],
      ["t", "turns the housing; both are shown before you keep one"],
    ],
  },
  fit: {
    answers: "Whether it goes in: stacks in their slots, parts in the housing, what a plate lies on; and what to cut.",
    first: [
      "the slot that worries you, measured with a ruler",
      "what stands in it, one behind the other",
      "what lies under a plate, before you buy pads",
    ],
    keys: [
      ["← → ↑ ↓", "moves the part in focus 1 mm, with Alt 10 mm"],
      ["r, v, Del", "turns it, plan or side view, takes it out"],
      ["Alt ↑ ↓", "moves a layer in its stack"],
    ],
  },
  forecast: {
    answers: "Whether every part holds in every workload, with its band; which figure to change, or to measure first.",
    first: ["read what is tight and why", "Solve for, when one figure is open", "Size it, when several are"],
    keys: [["s", "size it: candidates"]],
  },
  bench: {
    answers: "What was measured: a log of any logger, readings typed beside the machine, or a live run.",
    first: [
      "lock fans, pump and power limits",
      "the room beside the intake at start and end",
      "as many minutes of load as the test plan says",
    ],
    keys: [],
  },
  verdict: {
    answers: "Did it do what we predicted, at the run's own room, watts and speeds; and which hop is off.",
    first: [
      "choose the run",
      "look at what hides behind “cannot tell”",
      "open the suspect, or let Learn say what the runs teach",
    ],
    keys: [],
  },
  sheet: {
    answers:
      "In which order it goes together, what must be seen to work before it is hidden, how it is filled and kept.",
    first: ["say what is in hand", "look at the gates and what hides what", "tick as you go, here or on a phone"],
    keys: [
      ["↑ ↓", "step before, step after"],
      ["Space", "done"],
      ["u", "not done after all"],
      ["g", "next gate"],
    ],
  },
  logbook: {
    answers: "What was changed, why, and what it did in kelvins; the way back to every revision.",
    first: ["keep a revision before each run", "one line of why", "print the report"],
    keys: [],
  },
};
