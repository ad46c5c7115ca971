import type { ComponentProps, Ref } from "react";

import type { SheetBody } from "../../../api/client";
import { later } from "../../../ui/later";
import { MapOrRuler } from "../map/MapOrRuler";
import type { Answer } from "../../../api/client";
import type { InstrumentId } from "./useChosenLine";

interface Props {
  ref: Ref<HTMLElement>;
  sheetId: number;
  instrument: InstrumentId;
  body: SheetBody;
  answer: Answer;
  map: Omit<ComponentProps<typeof MapOrRuler>, "map" | "plan" | "fields">;
}

const NAMES: Record<InstrumentId, string> = {
  lens: "Lens comparison",
  exposure: "Exposure map",
  white: "Warmth ribbon",
  focus: "Depth strip",
  save: "Cost of each file",
};

/** The instrument of the chosen line of the slip. */
export function Instrument({ ref, instrument, ...rest }: Props) {
  return (
    <section
      ref={ref}
      aria-label={NAMES[instrument]}
      className="min-h-0 scroll-mt-2 overflow-hidden rounded border border-line bg-panel p-1"
    >
      <Drawing {...{ instrument, ...rest }} />
    </section>
  );
}

const OtherDrawing = later(() => import("./OtherLines").then((all) => all.OtherDrawing));

function Drawing({ instrument, sheetId, body, answer, map }: Omit<Props, "ref">) {
  if (instrument !== "exposure")
    return <OtherDrawing {...{ instrument, sheetId, body, answer }} edit={map.edit} />;
  if (answer.map && answer.plan)
    return <MapOrRuler {...map} map={answer.map} plan={answer.plan} fields={answer.fields} />;
  return <p className="p-4 text-soft">{answer.why_no_plan}</p>;
}
