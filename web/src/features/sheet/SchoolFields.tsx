import { useQuery } from "@tanstack/react-query";

import type { SheetBody } from "../../api/client";
import { Labelled, Select } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { phonesQuery } from "./queries";
import { writtenShutter } from "./readShutter";
import type { Edit } from "./useSheetEditor";

const ISO_SCHOOLS = [
  { value: "usual", text: "Usual", title: "Shutter first when something moves, else the floor" },
  { value: "floor", text: "Floor", title: "Lowest ISO; the shutter follows" },
  { value: "ceiling", text: "Ceiling", title: "ISO rises up to your cap for a safer shutter" },
  { value: "shutter_first", text: "Shutter first", title: "The shutter decides; ISO pays" },
] as const;
const AIMS = [
  { value: "centre", text: "Centre the meter" },
  { value: "highlights", text: "Keep the highlights" },
  { value: "dark", text: "Keep the night dark" },
  { value: "silhouette", text: "Silhouette" },
  { value: "split", text: "Between sky and ground" },
] as const;
const NONE = "none";

/** How to decide where experienced people differ. */
export function SchoolFields({ body, edit }: { body: SheetBody; edit: Edit }) {
  const { data: phones = [] } = useQuery(phonesQuery);
  const profile = phones.find((entry) => entry.profile.id === body.phone)?.profile;
  const lens = profile?.lenses.find((each) => each.id === body.lens) ?? profile?.lenses[0];
  const mode = lens?.modes.find((each) => each.id === body.mode) ?? lens?.modes[0];
  const ladder = mode && profile?.ladders[mode.manual];
  const { school } = body;
  const change = (label: string, part: Partial<SheetBody["school"]>) =>
    edit(label, (b) => ({ ...b, school: { ...b.school, ...part } }));
  return (
    <>
      <Labelled
        label={`ISO: ${ISO_SCHOOLS.find((s) => s.value === (school.iso ?? "usual"))?.title ?? ""}`}
      >
        {() => (
          <Segmented
            label="ISO school"
            value={school.iso ?? "usual"}
            options={ISO_SCHOOLS}
            onChange={(iso) => change("ISO school", { iso: iso === "usual" ? null : iso })}
          />
        )}
      </Labelled>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="ISO cap"
          value={school.iso_cap == null ? NONE : String(school.iso_cap)}
          options={[
            { value: NONE, text: "none" },
            ...options(ladder?.iso, school.iso_cap, (iso) => `ISO ${iso}`),
          ]}
          onChange={(cap) => change("ISO cap", { iso_cap: cap === NONE ? null : Number(cap) })}
        />
        <Select
          label="Exposure aim"
          value={school.exposure}
          options={AIMS}
          onChange={(exposure) => change("exposure aim", { exposure })}
        />
      </div>
      {school.iso === "shutter_first" && (
        <Select
          label="Shutter wanted"
          value={school.shutter_s == null ? NONE : String(school.shutter_s)}
          options={[
            { value: NONE, text: "what the motion asks for" },
            ...options(ladder?.shutter_s, school.shutter_s, sayShutter),
          ]}
          onChange={(t) => change("shutter wanted", { shutter_s: t === NONE ? null : Number(t) })}
        />
      )}
    </>
  );
}

function sayShutter(seconds: number): string {
  return `${writtenShutter(seconds)} s`;
}

/** Steps as options, with a value already chosen even when the phone has no such step. */
function options(
  steps: number[] | undefined,
  chosen: number | null | undefined,
  say: (v: number) => string,
) {
  const all = [...(steps ?? [])];
  if (chosen != null && !all.includes(chosen)) all.push(chosen);
  return all.map((value) => ({ value: String(value), text: say(value) }));
}
