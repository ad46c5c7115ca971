import type { Answer, SheetBody } from "../../api/client";
import { type Pair, wordsOf } from "./mapModel";

export interface Line {
  field: string;
  name: string;
  value: string;
  reason: string;
}

/** The slip's lines for the pair in force: the plan's own, or values chosen by hand. */
export function linesOf(answer: Answer, pair: Pair | null, byHand: boolean): Line[] {
  const { map, lines } = answer;
  if (!map || !pair || !byHand) return lines;
  const lens = lines.find((line) => line.field === "lens");
  const chosen = "chosen by hand on the map";
  return [
    ...(lens ? [lens] : []),
    { field: "iso", name: "ISO", value: map.isos[pair.row]?.label ?? "", reason: chosen },
    {
      field: "shutter_s",
      name: "Shutter",
      value: map.shutters[pair.column]?.label ?? "",
      reason: chosen,
    },
  ];
}

/** The slip as plain text, for a message or a notebook. */
export function slipText(body: SheetBody, answer: Answer, lines: Line[]): string {
  const dial = lines.map(
    (line, index) => `${index + 1}. ${line.name}: ${line.value} (${line.reason})`,
  );
  const conflict = answer.plan?.conflict?.sentence;
  return [`${body.title}, on ${answer.phone_name}`, ...dial, ...(conflict ? [conflict] : [])].join(
    "\n",
  );
}

/** What a screen reader hears when the slip changes. */
export function slipSpoken(answer: Answer, pair: Pair | null, lines: Line[]): string {
  if (lines.length === 0) return answer.why_no_plan ?? "No slip.";
  const words = answer.map && pair ? wordsOf(answer.map, pair) : "";
  const dial = lines.map((line) => `${line.name} ${line.value}`).join(", ");
  return [dial, words, answer.plan?.conflict?.sentence ?? ""].filter(Boolean).join("; ");
}
