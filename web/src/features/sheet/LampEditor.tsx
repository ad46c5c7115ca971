import type { Answer, SheetBody } from "../../api/client";
import { Labelled, NumberField } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import type { Edit } from "./useSheetEditor";

const KINDS = [
  { value: "steady", text: "Steady light" },
  { value: "50", text: "50 Hz mains" },
  { value: "60", text: "60 Hz mains" },
  { value: "driver", text: "Driven lamp" },
] as const;
type Kind = (typeof KINDS)[number]["value"];
const DRIVER_HZ = 480;

/** What pulses in the light. */
export function LampEditor({ body, edit }: { body: SheetBody; answer: Answer; edit: Edit }) {
  const flicker = body.flicker ?? null;
  const kind: Kind = !flicker
    ? "steady"
    : flicker.mains_hz
      ? (String(flicker.mains_hz) as Kind)
      : "driver";
  const change = (next: SheetBody["flicker"]) =>
    edit("lamps", (b) => ({ ...b, flicker: next, held: null }));
  const choose = (next: Kind) => {
    const tolerance = flicker?.tolerance ?? 0.05;
    if (next === "steady") change(null);
    else if (next === "driver") change({ driver_hz: DRIVER_HZ, tolerance });
    else change({ mains_hz: next === "50" ? 50 : 60, tolerance });
  };
  return (
    <div className="grid gap-2">
      <Labelled label="The light">
        {() => <Segmented label="Lamps" value={kind} options={KINDS} onChange={choose} />}
      </Labelled>
      {flicker && (
        <div className="grid grid-cols-3 gap-2">
          {kind === "driver" && (
            <NumberField
              label="Driver"
              unit="Hz"
              value={flicker.driver_hz ?? null}
              low={1}
              high={100000}
              onCommit={(driver_hz) => driver_hz && change({ ...flicker, driver_hz })}
            />
          )}
          <NumberField
            label="Pulsing accepted"
            unit="share"
            value={flicker.tolerance}
            low={0.001}
            high={1}
            onCommit={(tolerance) => tolerance && change({ ...flicker, tolerance })}
          />
        </div>
      )}
      {flicker && (
        <p className="text-[0.88rem] text-soft">
          Pulsing lamps can trigger seizures in some people; do not stare into them.
        </p>
      )}
    </div>
  );
}
