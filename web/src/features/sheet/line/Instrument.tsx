import type { ComponentProps, Ref } from "react";

import type { Answer, SheetBody, SlipLine } from "../../../api/client";
import { MapOrRuler } from "../map/MapOrRuler";
import { EXPOSURE, instrumentNamed } from "./instruments";

interface Props {
  ref: Ref<HTMLElement>;
  sheetId: number;
  instrument: string;
  line: SlipLine | undefined;
  body: SheetBody;
  answer: Answer;
  map: Omit<ComponentProps<typeof MapOrRuler>, "map" | "plan" | "fields">;
}

/** The instrument of the chosen line of the slip. */
export function Instrument({ ref, instrument, line, sheetId, body, answer, map }: Props) {
  const { name, Drawing } = instrumentNamed(instrument, line);
  return (
    <section
      ref={ref}
      aria-label={instrument === EXPOSURE ? "Exposure map" : name}
      className="min-h-0 scroll-mt-2 overflow-hidden rounded border border-line bg-panel p-1"
    >
      {instrument === EXPOSURE ? (
        <Exposure {...{ answer, map }} />
      ) : (
        <Drawing {...{ sheetId, body, answer, line }} edit={map.edit} />
      )}
    </section>
  );
}

function Exposure({ answer, map }: Pick<Props, "answer" | "map">) {
  if (answer.map && answer.plan)
    return <MapOrRuler {...map} map={answer.map} plan={answer.plan} fields={answer.fields} />;
  return <p className="p-4 text-soft">{answer.why_no_plan}</p>;
}
