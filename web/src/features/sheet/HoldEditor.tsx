import type { Answer, SheetBody } from "../../api/client";
import { Labelled, NumberField } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import type { Edit } from "./useSheetEditor";

const SUPPORTS = [
  { value: "handheld", text: "In the hand" },
  { value: "braced", text: "Braced" },
  { value: "tripod", text: "Tripod" },
] as const;

/** What holds the phone, how many tries, how much shake is accepted. */
export function HoldEditor({ body, edit }: { body: SheetBody; answer: Answer; edit: Edit }) {
  const change = (part: Partial<SheetBody["hold"]>) =>
    edit("holding", (b) => ({ ...b, hold: { ...b.hold, ...part }, held: null }));
  return (
    <div className="grid gap-2">
      <Labelled label="What holds it">
        {() => (
          <Segmented
            label="What holds the phone"
            value={body.support}
            options={SUPPORTS}
            onChange={(support) => edit("support", (b) => ({ ...b, support, held: null }))}
          />
        )}
      </Labelled>
      {body.support !== "tripod" && (
        <div className="grid grid-cols-3 gap-2">
          <NumberField
            label="Burst"
            unit="frames"
            value={body.hold.burst}
            low={1}
            high={200}
            onCommit={(burst) => change({ burst: Math.round(burst ?? 1) })}
          />
          <NumberField
            label="Stabiliser"
            unit="stops"
            value={body.hold.stabiliser_stops ?? null}
            low={0}
            high={10}
            placeholder="as the lens"
            onCommit={(stabiliser_stops) => change({ stabiliser_stops })}
          />
          <NumberField
            label="Risk taken"
            unit="stops"
            value={body.hold.risk_stops}
            low={0}
            high={15}
            onCommit={(risk) => change({ risk_stops: risk ?? 0 })}
          />
        </div>
      )}
    </div>
  );
}
