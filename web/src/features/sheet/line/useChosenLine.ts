import { useCallback } from "react";
import { useSearchParams } from "wouter";

/** What is open beneath: of the picture, or of the chosen line. */
export type PartId = "light" | "picture" | "dry" | "line" | "ways";
const PARTS: readonly string[] = ["light", "picture", "dry", "line", "ways"];

/** Which line of the slip is chosen and which part is open beneath; both are in the address. */
export function useChosenLine() {
  const [address, setAddress] = useSearchParams();
  const asked = address.get("line");
  const field = asked ?? "shutter_s";
  const part = address.get("part");
  const set = useCallback(
    (change: Record<string, string>) =>
      setAddress(
        (before) => {
          const next = new URLSearchParams(before);
          Object.entries(change).forEach(([key, value]) => next.set(key, value));
          return next;
        },
        { replace: true },
      ),
    [setAddress],
  );
  return {
    field,
    part: part && PARTS.includes(part) ? (part as PartId) : asked ? ("line" as const) : null,
    choose: useCallback((next: string) => set({ line: next, part: "line" }), [set]),
    open: useCallback((next: PartId) => set({ part: next }), [set]),
  };
}
