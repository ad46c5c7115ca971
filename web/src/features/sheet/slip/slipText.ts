import type { Answer, ExposureMap, SheetBody, SlipLine } from "../../../api/client";
import { type Pair, wordsOf } from "../map/mapModel";

export type Line = SlipLine;

/** The slip's lines for the pair shown: what the map moves is as it was moved by hand. */
export function linesOf(answer: Answer, pair: Pair | null, byHand: boolean): Line[] {
  const { map, lines } = answer;
  if (!map || !pair || !byHand) return lines;
  return lines.map((line) =>
    line.on_map
      ? { ...line, value: labelAt(map, pair, line.field), reason: line.reason_by_hand }
      : line,
  );
}

function labelAt(map: ExposureMap, pair: Pair, field: string): string {
  const steps: Record<string, string | undefined> = {
    iso: map.isos[pair.row]?.label,
    shutter_s: map.shutters[pair.column]?.label,
  };
  return steps[field] ?? "";
}

/** The slip as plain text, for a message or a notebook. */
export function slipText(body: SheetBody, answer: Answer, lines: Line[]): string {
  const dial = lines.map(
    (line, index) => `${index + 1}. ${line.name}: ${line.value} (${line.reason})`,
  );
  const setUp = answer.set_up.map((step) => `- ${step}`);
  const conflict = answer.plan?.conflict?.sentence;
  const lands = answer.plan?.outcome.map((spot) => spot.words) ?? [];
  return [
    `${body.title}, on ${answer.phone_name}`,
    ...answer.cautions
      .filter((caution) => caution.is_grave)
      .map((caution) => `Danger: ${caution.words}`),
    ...(conflict ? [`Not as you asked: ${conflict}`] : []),
    ...dial,
    ...lands,
    ...(setUp.length > 0 ? ["Set up first:", ...setUp] : []),
  ].join("\n");
}

/** What a new reading did to the slip, line by line as far as it differs. */
export function whatChanged(before: Answer, after: Answer): string {
  const collides = after.plan?.conflict?.sentence ?? after.why_no_plan;
  if (after.lines.length === 0) return collides ?? "Read.";
  const was = new Map(before.lines.map((line) => [line.field, line.value]));
  const other = after.lines.filter((line) => was.get(line.field) !== line.value);
  if (other.length === 0) return "Light measured. The slip did not change.";
  const moves = other.map((line) => {
    const old = was.get(line.field);
    return old ? `${line.name} ${old} → ${line.value}` : `${line.name} ${line.value}`;
  });
  return `Light measured: ${moves.join(", ")}.`;
}

/** What a screen reader hears when the slip changes. */
export function slipSpoken(answer: Answer, pair: Pair | null, lines: Line[]): string {
  if (lines.length === 0) return answer.why_no_plan ?? "No slip.";
  const words = answer.map && pair ? wordsOf(answer.map, pair) : "";
  const dial = lines.map((line) => `${line.name} ${line.value}`).join(", ");
  return [dial, words, answer.plan?.conflict?.sentence ?? ""].filter(Boolean).join("; ");
}
