import type { SheetBody } from "../../../api/client";
import { Labelled, NumberField } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";
import { useAsks } from "./useAsks";
import { fixed, stops } from "../../../ui/numbers";

type Snr = SheetBody["output"]["snr"];
const OWN = "own";

/** Where the picture will be seen, and how clean its subject must be there. */
export function OutputEditor({ body, answer, edit }: EditorProps) {
  const { field } = useAsks();
  const { output } = body;
  const snr = field(["output", "snr"]);
  const floor = typeof output.snr === "number" ? OWN : output.snr;
  const change = (next: Snr) =>
    edit("output", (b) => ({ ...b, output: { ...b.output, snr: next }, steps_by_hand: null }));
  const span = answer.plan?.span;
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-[1.8fr_1fr] gap-2">
        <AskField
          {...{ body, edit, does: "output" }}
          path={["output", "use"]}
          also={(b) => ({ ...b, output: { ...b.output, width_px: null, height_px: null } })}
        />
        {floor === OWN && (
          <NumberField
            label="Subject SNR"
            value={typeof output.snr === "number" ? output.snr : null}
            low={snr?.low}
            high={snr?.high}
            onCommit={(value) => value !== null && change(value)}
          />
        )}
      </div>
      <Labelled label="Noise allowed">
        {() => (
          <Segmented
            label="Noise floor"
            value={floor}
            options={[...(snr?.choices ?? []), { value: OWN, text: "Custom" }]}
            onChange={(next) => change(next === OWN ? (snr?.usual ?? output.snr) : (next as Snr))}
          />
        )}
      </Labelled>
      {span && (
        <p className="text-[0.92rem]">
          Range to keep: <b>{stops(span.range_stops)}</b>. JPEG holds{" "}
          {fixed(span.processed.range_stops, 1)}, RAW {fixed(span.raw.range_stops, 1)}. {span.words}
        </p>
      )}
    </div>
  );
}
