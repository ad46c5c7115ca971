import { useQuery } from "@tanstack/react-query";

import type { Answer, SheetBody } from "../../api/client";
import { Labelled, NumberField, Select } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { wishesQuery } from "./queries";
import type { Edit } from "./useSheetEditor";

const FLOORS = [
  { value: "any", text: "Any noise" },
  { value: "acceptable", text: "Acceptable, 10" },
  { value: "excellent", text: "Excellent, 40" },
  { value: "own", text: "Own" },
] as const;
type Floor = (typeof FLOORS)[number]["value"];

/** Where the picture will be seen, and how clean its subject must be there. */
export function OutputEditor({
  body,
  answer,
  edit,
}: {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}) {
  const { data: wishes } = useQuery(wishesQuery);
  const { output } = body;
  const floor: Floor = typeof output.snr === "number" ? "own" : output.snr;
  const change = (part: Partial<SheetBody["output"]>) =>
    edit("output", (b) => ({ ...b, output: { ...b.output, ...part }, held: null }));
  const span = answer.plan?.span;
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-[1.8fr_1fr] gap-2">
        <Select
          label="Where it will be seen"
          value={output.use ?? "screen"}
          options={(wishes?.uses ?? []).map((use) => ({
            value: use.id,
            text: `${use.name}, ${use.width_px} × ${use.height_px}`,
          }))}
          onChange={(use) => change({ use, width_px: null, height_px: null })}
        />
        {floor === "own" && (
          <NumberField
            label="SNR of the subject"
            value={typeof output.snr === "number" ? output.snr : 20}
            low={0.5}
            high={1000}
            onCommit={(snr) => snr && change({ snr })}
          />
        )}
      </div>
      <Labelled label="How clean its subject must be">
        {() => (
          <Segmented
            label="Noise floor"
            value={floor}
            options={FLOORS}
            onChange={(next) => change({ snr: next === "own" ? 20 : next })}
          />
        )}
      </Labelled>
      {span && (
        <p className="text-[0.92rem]">
          Bright to dark to keep: <b>{span.range_stops.toFixed(1)} stops</b>. A processed frame
          holds {span.processed.range_stops.toFixed(1)}, a RAW frame{" "}
          {span.raw.range_stops.toFixed(1)}. {span.words}
        </p>
      )}
    </div>
  );
}
