import { Button } from "../../../ui/Button";
import { stops } from "../../../ui/numbers";
import type { Edit } from "../useSheetEditor";

const STEP_STOPS = 0.5;
const MOST_STOPS = 10;

/** A cloud comes or goes: the slip for light half a stop darker or brighter, by one tap. */
export function LightShift({ shift, edit }: { shift: number; edit: Edit }) {
  const to = (next: number, label: string) =>
    edit(label, (body) => ({ ...body, light_shift_stops: next }));
  const by = (change: number, word: string) => (
    <Button
      className="flex-1 px-1 text-[0.92rem] whitespace-nowrap"
      disabled={Math.abs(shift + change) > MOST_STOPS}
      onClick={() => to(shift + change, `light ½ stop ${word}`)}
    >
      ½ stop {word}
    </Button>
  );
  return (
    <section aria-label="Light now" className="no-print mt-2 border-t border-line pt-2">
      <p className="mb-1 flex items-baseline gap-2 leading-snug">
        <span className="text-[0.9rem] text-soft">Light now</span>
        {shift !== 0 && (
          <>
            <b>
              {stops(Math.abs(shift))} {shift < 0 ? "darker" : "brighter"}
            </b>
            <Button look="quiet" className="ml-auto" onClick={() => to(0, "light as measured")}>
              As measured
            </Button>
          </>
        )}
      </p>
      <div className="flex gap-2">
        {by(-STEP_STOPS, "darker")}
        {by(STEP_STOPS, "brighter")}
      </div>
    </section>
  );
}
