import type { NextStep } from "./queries";

/** What becomes of a picture, in a word and a mark that needs no colour. */
export const STEP_WORDS: Record<NextStep, string> = {
  keep: "Good",
  match: "To match",
  reshoot: "Reshoot",
  look: "Not judged",
};

export const STEP_MARKS: Record<NextStep, string> = {
  keep: "border-line",
  match: "border-2 border-dashed border-accent",
  reshoot: "border-4 border-accent",
  look: "border-2 border-dotted border-strong",
};
