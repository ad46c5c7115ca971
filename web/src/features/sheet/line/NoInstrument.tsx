import type { Answer } from "../../../api/client";

/** Why nothing is drawn for a line. */
export function NoInstrument({ answer }: { answer: Answer }) {
  return (
    <p className="p-4 text-soft">
      {answer.why_no_plan ?? "This phone sets white balance by itself."}
    </p>
  );
}
