import { useQuery } from "@tanstack/react-query";

import type { Answer, Limit, SheetBody } from "../../api/client";
import { Labelled, Select } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { OpenNumber } from "./OpenNumber";
import { phonesQuery } from "./queries";
import { SchoolFields } from "./SchoolFields";
import type { Edit } from "./useSheetEditor";

const SUPPORTS = [
  { value: "handheld", text: "In the hand" },
  { value: "braced", text: "Braced" },
  { value: "tripod", text: "Tripod" },
] as const;
const FORMATS = [
  { value: "processed", text: "Processed" },
  { value: "raw", text: "RAW" },
  { value: "both", text: "Both" },
] as const;

interface Props {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}

/** Phone, lens, what holds it, the school; and every limit with its reason. */
export function TimePart({ body, answer, edit }: Props) {
  const { data: phones = [] } = useQuery(phonesQuery);
  const profile = phones.find((entry) => entry.profile.id === body.phone)?.profile;
  const lenses = profile?.lenses ?? [];
  const lens = lenses.find((each) => each.id === body.lens) ?? lenses[0];
  const modes = lens?.modes ?? [];
  return (
    <div className="grid gap-x-5 gap-y-3 md:grid-cols-3">
      <div className="grid content-start gap-3">
        <div className="grid grid-cols-2 gap-2">
          <Select
            label="Phone"
            value={body.phone}
            options={phones.map(({ profile: p }) => ({ value: p.id, text: p.name }))}
            onChange={(phone) =>
              edit("phone", (b) => ({ ...b, phone, lens: null, mode: null, held: null }))
            }
          />
          <Select
            label="Lens, fixed aperture"
            value={lens?.id ?? ""}
            options={lenses.map((l) => ({
              value: l.id,
              text: `${l.name}: ${l.focal35_mm} mm, f/${l.f_number}`,
            }))}
            onChange={(next) => edit("lens", (b) => ({ ...b, lens: next, mode: null, held: null }))}
          />
        </div>
        {modes.length > 1 && (
          <Select
            label="Mode"
            value={body.mode ?? modes[0]?.id ?? ""}
            options={modes.map((m) => ({ value: m.id, text: m.name }))}
            onChange={(mode) => edit("mode", (b) => ({ ...b, mode, held: null }))}
          />
        )}
        <Labelled label="Save as">
          {() => (
            <Segmented
              label="File format"
              value={body.format}
              options={FORMATS}
              onChange={(format) => edit("format", (b) => ({ ...b, format }))}
            />
          )}
        </Labelled>
      </div>
      <div className="grid content-start gap-3">
        <Labelled label="What holds it">
          {() => (
            <Segmented
              label="What holds the phone"
              value={body.support}
              options={SUPPORTS}
              onChange={(support) => edit("support", (b) => ({ ...b, support }))}
            />
          )}
        </Labelled>
        <SchoolFields body={body} edit={edit} />
      </div>
      <Limits limits={answer.plan?.limits ?? []} wanted={answer.plan?.wanted_ev100} />
    </div>
  );
}

function Limits({ limits, wanted }: { limits: Limit[]; wanted: number | undefined }) {
  if (limits.length === 0)
    return <p className="text-soft">Limits appear with the first reading.</p>;
  return (
    <div>
      <h3 className="mb-1 text-[0.82rem] text-soft">Limits; a filled mark decides the slip</h3>
      <ul className="grid gap-1.5 text-[0.92rem] leading-snug">
        {limits.map((limit) => (
          <li key={limit.id} className="grid grid-cols-[0.9rem_1fr] gap-1.5">
            <span
              aria-label={limit.binding ? "decides" : "has slack"}
              role="img"
              className={`mt-1 h-2.5 w-2.5 rotate-45 border border-ink ${limit.binding ? "bg-ink" : ""}`}
            />
            <OpenNumber
              computation={limit.computation}
              inputs={
                limit.id === "highlights" ? { ...limit.inputs, ev100_set: wanted } : limit.inputs
              }
              title={limit.name}
              sentence={limit.reason}
              source={limit.source}
            >
              {limit.reason}
            </OpenNumber>
          </li>
        ))}
      </ul>
    </div>
  );
}
