import { Tabs } from "radix-ui";
import type { ComponentProps, Ref } from "react";

import type { Answer, SheetBody, SlipLine } from "../../../api/client";
import { TabStrip } from "../../../ui/TabStrip";
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
  /** Choose a line of the slip, and with it its instrument. */
  onChoose: (field: string) => void;
}

/** The instrument of the chosen line of the slip, and the way to all others. */
export function Instrument(props: Props) {
  const { ref, instrument, line, sheetId, body, answer, map, onChoose } = props;
  const { name, Drawing } = instrumentNamed(instrument, line);
  const all = instrumentsOf(answer.lines);
  return (
    <Tabs.Root
      asChild
      value={instrument}
      onValueChange={(next) => {
        const chosen = all.find((each) => each.id === next);
        if (chosen) onChoose(chosen.field);
      }}
    >
      <section
        ref={ref}
        aria-label={instrument === EXPOSURE ? "Exposure map" : name}
        className="flex min-h-0 scroll-mt-2 flex-col overflow-hidden rounded border border-line bg-panel"
      >
        {all.length > 1 && <TabStrip aria-label="Instruments" tabs={all} />}
        <Tabs.Content value={instrument} className="min-h-0 flex-1 p-1" tabIndex={-1}>
          {instrument === EXPOSURE ? (
            <Exposure {...{ answer, map }} />
          ) : (
            <Drawing {...{ sheetId, body, answer, line }} edit={map.edit} />
          )}
        </Tabs.Content>
      </section>
    </Tabs.Root>
  );
}

/** The instruments of a slip in its order, each with the line that opens it. */
function instrumentsOf(lines: SlipLine[]): { id: string; text: string; field: string }[] {
  const found = new Map<string, { id: string; text: string; field: string }>();
  for (const line of lines) {
    const id = line.instrument || EXPOSURE;
    const text = id === EXPOSURE ? "Exposure" : instrumentNamed(id, line).short;
    if (!found.has(id)) found.set(id, { id, text, field: line.field });
  }
  const exposure = found.get(EXPOSURE);
  if (exposure) exposure.field = "shutter_s";
  return [...found.values()];
}

function Exposure({ answer, map }: Pick<Props, "answer" | "map">) {
  if (answer.map && answer.plan)
    return <MapOrRuler {...map} map={answer.map} plan={answer.plan} fields={answer.fields} />;
  return <p className="p-4 text-soft">{answer.why_no_plan}</p>;
}
