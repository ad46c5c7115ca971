import { useQuery } from "@tanstack/react-query";

import type { Correction, LightReading, Role, SpotRole, SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Select, TextField } from "../../../ui/Field";
import { ev, fixed, percent, precise, signed, stops } from "../../../ui/numbers";
import { useAsks } from "../limits/useAsks";
import { AddReading } from "./AddReading";
import { OpenNumber } from "../limits/OpenNumber";
import { PlaceField } from "./PlaceField";
import { tonesQuery } from "../queries";
import { RoleGlyph } from "../frame/RoleGlyph";
import type { Edit } from "../useSheetEditor";

const KIND_WORDS: Record<LightReading["kind"], string> = {
  spot: "spot",
  auto: "auto settings",
  lux: "hand meter, lx",
  ev: "hand meter, EV",
  predicted: "predicted",
  level: "a guess: usual light",
  frame: "stated default",
};

interface Props {
  body: SheetBody;
  readings: LightReading[];
  corrections: Correction[];
  settings: { iso: number | null; shutter_s: number | null } | null;
  selected: string | null;
  onSelect: (id: string) => void;
  edit: Edit;
}

/** Every reading with its role and the tone it is wanted at. */
export function LightPart({
  body,
  readings,
  corrections,
  settings,
  selected,
  onSelect,
  edit,
}: Props) {
  const { data: tones = [] } = useQuery(tonesQuery);
  const { roles, spot_roles: spotRoles } = useAsks();
  const optionsOf = ({ kind }: LightReading) =>
    (kind === "spot" ? spotRoles : roles).map((role) => ({ value: role.id, text: role.name }));
  const change = (
    id: string,
    label: string,
    part: { role?: SpotRole; place?: number | null; name?: string },
  ) =>
    edit(label, (current) => ({
      ...current,
      spots: current.spots.map((spot) => (spot.id === id ? { ...spot, ...part } : spot)),
      readings: current.readings.map((each) =>
        // What is read without a picture has no tone to show: its role is always one that counts.
        each.id === id ? { ...each, ...part, role: (part.role ?? each.role) as Role } : each,
      ),
    }));
  const remove = (id: string) =>
    edit("delete reading", (current) => ({
      ...current,
      spots: current.spots.filter((spot) => spot.id !== id),
      readings: current.readings.filter((each) => each.id !== id),
    }));
  return (
    <div className="grid gap-2">
      {readings.length === 0 && (
        <p className="text-soft">
          {body.picture
            ? "Click the picture to meter a spot, or add a reading."
            : "No light measured yet. Add a picture or a reading."}
        </p>
      )}
      {readings.length > 0 && (
        <table className="w-full border-collapse text-[0.95rem]">
          <thead className="text-left text-[0.82rem] text-soft max-md:hidden">
            <tr>
              <th className="font-normal">Where</th>
              <th className="font-normal">Role</th>
              <th className="font-normal">Light</th>
              <th className="font-normal">Wanted, stops</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {readings.map((reading) => (
              <tr
                key={reading.id}
                data-selected={selected === reading.id}
                data-superseded={reading.superseded}
                className="border-t border-line data-[superseded=true]:text-soft data-[selected=true]:bg-accent-soft max-md:grid max-md:grid-cols-2 max-md:gap-2 max-md:py-2"
                onFocus={() => onSelect(reading.id)}
              >
                <td className="py-1 pr-2">
                  {reading.kind === "frame" ? (
                    <span>Whole frame (until a spot has a role)</span>
                  ) : (
                    <Name
                      reading={reading}
                      onName={(name) => change(reading.id, "name", { name })}
                    />
                  )}
                </td>
                <td className="py-1 pr-2">
                  <Select
                    label={`Role of ${reading.name || reading.id}`}
                    hideLabel
                    value={reading.role}
                    options={optionsOf(reading)}
                    onChange={(role) => change(reading.id, "role", { role })}
                  />
                </td>
                <td className="py-1 pr-2 whitespace-nowrap">
                  <Light reading={reading} />
                </td>
                <td className="py-1 pr-2 max-md:col-span-2 max-md:row-start-3">
                  {reading.role === "tone" ? (
                    <span className="text-soft">Choose a role to plan with it</span>
                  ) : (
                    <PlaceField
                      reading={reading}
                      tones={tones}
                      onPlace={(place) => change(reading.id, "tone", { place })}
                    />
                  )}
                </td>
                <td className="py-1 text-right">
                  {reading.kind !== "frame" && (
                    <Button
                      look="quiet"
                      aria-label={`Delete ${reading.name || reading.id}`}
                      onClick={() => remove(reading.id)}
                    >
                      ×
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {corrections.map((correction) => (
        <div
          key={correction.id}
          className="flex flex-wrap items-center gap-x-3 border-t border-line pt-2"
        >
          <p className="min-w-0 flex-1">
            {correction.words} {correction.doubt && <b>{correction.doubt}</b>}
          </p>
          <Button
            look="quiet"
            onClick={() =>
              edit("undo the correction", (current) => ({ ...current, ...correction.patch }))
            }
          >
            Undo
          </Button>
        </div>
      ))}
      <AddReading body={body} settings={settings} edit={edit} />
    </div>
  );
}

function Name({ reading, onName }: { reading: LightReading; onName: (name: string) => void }) {
  return (
    <span className="flex items-center gap-2">
      <svg
        viewBox="-10 -10 20 20"
        className="h-4 w-4 shrink-0"
        fill="none"
        stroke="currentColor"
        aria-hidden="true"
      >
        <RoleGlyph role={reading.role} size={7} />
      </svg>
      <TextField
        label={`Name of ${reading.id}`}
        hideLabel
        value={reading.name}
        placeholder={KIND_WORDS[reading.kind]}
        maxLength={60}
        onCommit={onName}
      />
    </span>
  );
}

function Light({ reading }: { reading: LightReading }) {
  if (reading.ev100 === null) return <span className="text-soft">not measured</span>;
  if (reading.superseded)
    return <span>guessed {ev(reading.ev100)}, not used (light is measured)</span>;
  const bound = { ok: "", clipped: "at least ", blocked: "at most " }[reading.state];
  const luminance = precise(reading.luminance_cd_m2 ?? 0, 2);
  return (
    <OpenNumber
      computation="luminance_from_ev100"
      inputs={{ ev100: reading.ev100 }}
      title={`Light on ${reading.name || "the spot"}`}
      sentence={`± ${stops(reading.plus_minus_stops)}: ${reading.why}${spread(reading)}`}
    >
      {bound}
      <b data-fact={`light of ${reading.id}`}>{ev(reading.ev100)}</b> ±{" "}
      {fixed(reading.plus_minus_stops, 1)}
      <span className="ml-2 text-soft">{luminance} cd/m²</span>
    </OpenNumber>
  );
}

function spread(reading: LightReading): string {
  const [low, high] = reading.spread_stops ?? [];
  if (low === undefined || high === undefined) return "";
  const clipped = reading.clipped_share ? `, ${percent(reading.clipped_share)} of it clipped` : "";
  const sooner = reading.channel_stops;
  const colour = reading.channel_is_telling
    ? `; its strongest colour lies ${signed(sooner)} above`
    : "";
  return `. Its tones spread over ${signed(high - low).replace("+", "")} stops${clipped}${colour}`;
}
