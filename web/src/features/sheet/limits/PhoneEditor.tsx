import { useQuery } from "@tanstack/react-query";

import { Labelled, Select } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { phonesQuery } from "../queries";
import type { EditorProps } from "./LimitBoard";
import { useAsks } from "./useAsks";

const ANY = "any";

/** Phone, lens, mode and format. */
export function PhoneEditor({ body, edit }: EditorProps) {
  const { data: phones = [] } = useQuery(phonesQuery);
  const profile = phones.find((entry) => entry.profile.id === body.phone)?.profile;
  const lenses = profile?.lenses ?? [];
  const lens = lenses.find((each) => each.id === body.lens) ?? lenses[0];
  const modes = lens?.modes ?? [];
  const formats = useAsks().field(["format"])?.choices ?? [];
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <Select
        label="Phone"
        value={body.phone}
        options={phones
          .filter((entry) => !entry.removed || entry.profile.id === body.phone)
          .map(({ profile: p, removed }) => ({
            value: p.id,
            text: removed ? `${p.name}, not in your kit` : p.name,
          }))}
        onChange={(phone) =>
          edit("phone", (b) => ({ ...b, phone, lens: null, mode: null, steps_by_hand: null }))
        }
      />
      <Select
        label="Lens, fixed aperture"
        value={body.lens === ANY ? ANY : (lens?.id ?? "")}
        options={[
          ...lenses.map((l) => ({
            value: l.id,
            text: `${l.name}: ${l.focal35_mm} mm, f/${l.f_number}`,
          })),
          ...(lenses.length > 1 ? [{ value: ANY, text: "Best lens" }] : []),
        ]}
        onChange={(next) =>
          edit("lens", (b) => ({ ...b, lens: next, mode: null, steps_by_hand: null }))
        }
      />
      {modes.length > 1 && body.lens !== ANY && (
        <Select
          label="Mode"
          value={body.mode ?? modes[0]?.id ?? ""}
          options={modes.map((m) => ({ value: m.id, text: m.name }))}
          onChange={(mode) => edit("mode", (b) => ({ ...b, mode, steps_by_hand: null }))}
        />
      )}
      <Labelled label="Save as">
        {() => (
          <Segmented
            label="File format"
            value={body.format}
            options={formats.map((format) => ({
              ...format,
              value: format.value as typeof body.format,
            }))}
            onChange={(format) => edit("format", (b) => ({ ...b, format }))}
          />
        )}
      </Labelled>
    </div>
  );
}
