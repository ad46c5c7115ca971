/** Seconds on a log axis across a drawing. */
export interface Axis {
  at: (seconds: number) => number;
  seconds: (x: number) => number;
}

export const FIRST_S = 0.01;
export const LAST_S = 3600;

export function timeAxis(left: number, right: number): Axis {
  const span = Math.log(LAST_S / FIRST_S);
  return {
    at: (seconds) =>
      left +
      ((right - left) * Math.log(Math.min(LAST_S, Math.max(FIRST_S, seconds)) / FIRST_S)) / span,
    seconds: (x) => FIRST_S * Math.exp((span * (x - left)) / (right - left)),
  };
}

/** Where the axis is labelled, as people say times. */
export const MARKS: readonly { s: number; text: string }[] = [
  { s: 0.01, text: "1/100" },
  { s: 0.1, text: "1/10" },
  { s: 0.5, text: "½ s" },
  { s: 1, text: "1 s" },
  { s: 5, text: "5 s" },
  { s: 15, text: "15 s" },
  { s: 60, text: "1 min" },
  { s: 300, text: "5 min" },
  { s: 1200, text: "20 min" },
  { s: 3600, text: "1 h" },
];
