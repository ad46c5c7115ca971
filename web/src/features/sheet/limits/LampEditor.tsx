import type { SheetBody } from "../../../api/client";
import { Labelled } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";
import { useAsks } from "./useAsks";

const KINDS = [
  { value: "steady", text: "Steady light" },
  { value: "50", text: "50 Hz mains" },
  { value: "60", text: "60 Hz mains" },
  { value: "driver", text: "Driven lamp" },
] as const;
type Kind = (typeof KINDS)[number]["value"];
type Lamps = NonNullable<SheetBody["flicker"]>;

/** What pulses in the light. */
export function LampEditor({ body, edit }: EditorProps) {
  const { ask } = useAsks();
  const lamps = body.flicker ?? null;
  const kind: Kind = !lamps
    ? "steady"
    : lamps.mains_hz
      ? (String(lamps.mains_hz) as Kind)
      : "driver";
  const choose = (next: Kind) => {
    const entry = ask("flicker")?.entry as Lamps | undefined;
    if (!entry) return;
    const tolerance = lamps?.tolerance ?? entry.tolerance;
    const mains: Lamps = { tolerance, mains_hz: next === "50" ? 50 : 60, driver_hz: null };
    const flicker = next === "steady" ? null : next === "driver" ? { ...entry, tolerance } : mains;
    edit("lamps", (b) => ({ ...b, flicker, steps_by_hand: null }));
  };
  const own = { body, edit, does: "lamps" };
  return (
    <div className="grid gap-2">
      <Labelled label="Lamps">
        {() => <Segmented label="Lamps" value={kind} options={KINDS} onChange={choose} />}
      </Labelled>
      {lamps && (
        <div className="grid grid-cols-3 gap-2">
          {kind === "driver" && <AskField {...own} path={["flicker", "driver_hz"]} />}
          <AskField {...own} path={["flicker", "tolerance"]} />
        </div>
      )}
      {lamps && (
        <p className="text-[0.88rem] text-soft">
          Pulsing lamps can trigger seizures in some people; do not stare into them.
        </p>
      )}
    </div>
  );
}
