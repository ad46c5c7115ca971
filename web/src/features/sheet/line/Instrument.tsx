import type { ComponentProps, Ref } from "react";

import type { SheetBody } from "../../../api/client";
import { WarmthRibbon } from "../colour/WarmthRibbon";
import { DepthStrip } from "../focus/DepthStrip";
import { LensComparison } from "../limits/LensPart";
import { MapOrRuler } from "../map/MapOrRuler";
import { SavingBars } from "../saving/SavingBars";
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

function Drawing({ instrument, sheetId, body, answer, map }: Omit<Props, "ref">) {
  const { edit } = map;
  if (instrument === "lens" && answer.plan) return <LensComparison {...{ body, answer, edit }} />;
  if (instrument === "white" && answer.warmth)
    return <WarmthRibbon ribbon={answer.warmth} edit={edit} />;
  if (instrument === "focus" && answer.depth)
    return <DepthStrip strip={answer.depth} {...{ body, edit }} />;
  if (instrument === "save" && answer.saving)
    return <SavingBars saving={answer.saving} {...{ sheetId, body, edit }} />;
  if (instrument === "exposure" && answer.map && answer.plan)
    return <MapOrRuler {...map} map={answer.map} plan={answer.plan} fields={answer.fields} />;
  return (
    <p className="p-4 text-soft">
      {answer.why_no_plan ?? "This phone leaves white balance to itself."}
    </p>
  );
}
