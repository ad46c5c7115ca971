import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { ReadingBody, SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Labelled, Select } from "../../../ui/Field";
import { ev } from "../../../ui/numbers";
import { useAsks } from "../limits/useAsks";
import { levelsQuery } from "../queries";
import { readShutter, writtenShutter } from "./readShutter";
import { freeId, nextRole } from "../frame/spots";
import type { Edit } from "../useSheetEditor";

const KINDS = [
  { value: "auto", text: "Phone's auto settings" },
  { value: "lux", text: "Hand meter, lux" },
  { value: "ev", text: "Hand meter" },
  { value: "level", text: "Usual light" },
] as const satisfies readonly { value: ReadingBody["source"]["kind"]; text: string }[];
type Kind = (typeof KINDS)[number]["value"];

interface Props {
  body: SheetBody;
  /** What the picture says of its exposure, to begin with. */
  settings: { iso: number | null; shutter_s: number | null } | null;
  edit: Edit;
}

/** A reading without a picture, in the four ways there are. */
export function AddReading({ body, settings, edit }: Props) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<Kind>("auto");
  const [first, setFirst] = useState("");
  const [second, setSecond] = useState("");
  const [level, setLevel] = useState("overcast");
  const { spot: rules } = useAsks();
  const { data: levels = [] } = useQuery({ ...levelsQuery, enabled: open });
  const begin = () => {
    setFirst(settings?.iso ? String(settings.iso) : "");
    setSecond(settings?.shutter_s ? writtenShutter(settings.shutter_s) : "");
    setOpen(true);
  };
  const source = sourceOf(kind, first, second, level);

  const add = () => {
    if (!source || !rules) return;
    const name = kind === "level" ? (levels.find((l) => l.id === level)?.name ?? "") : "";
    const role = nextRole([...body.spots, ...body.readings], rules);
    const reading = {
      id: freeId(body, "reading"),
      name: name.slice(0, 60),
      role,
      place: null,
      source,
    };
    edit("new reading", (current) => ({ ...current, readings: [...current.readings, reading] }));
    setOpen(false);
  };
  if (!open)
    return (
      <div>
        <Button onClick={begin}>Add reading</Button>
      </div>
    );
  return (
    <form
      className="flex flex-wrap items-end gap-2 rounded border border-strong p-2"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <div className="min-w-56 flex-1">
        <Select
          label="Source"
          value={kind}
          options={KINDS}
          onChange={(next) => {
            setKind(next);
            setFirst("");
          }}
        />
      </div>
      {kind === "level" ? (
        <div className="min-w-56 flex-1">
          <Select
            label="Usual light"
            value={level}
            options={levels.map((l) => ({
              value: l.id,
              text: `${l.name}: ${ev(l.ev100)} ± ${l.plus_minus_stops}`,
            }))}
            onChange={setLevel}
          />
        </div>
      ) : (
        <Number1
          label={{ auto: "ISO", lux: "Lux", ev: "EV" }[kind]}
          value={first}
          onChange={setFirst}
        />
      )}
      {kind === "auto" && <Number1 label="Shutter" value={second} onChange={setSecond} />}
      <Button type="submit" look="main" disabled={!source}>
        Add
      </Button>
      <Button look="quiet" onClick={() => setOpen(false)}>
        Cancel
      </Button>
    </form>
  );
}

function Number1(props: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <div className="w-36">
      <Labelled label={props.label}>
        {(id) => (
          <input
            id={id}
            className="field"
            inputMode="decimal"
            value={props.value}
            onChange={(event) => props.onChange(event.target.value)}
          />
        )}
      </Labelled>
    </div>
  );
}

function sourceOf(
  kind: Kind,
  first: string,
  second: string,
  level: string,
): ReadingBody["source"] | null {
  const value = Number(first.replace("−", "-"));
  if (kind === "level") return { kind, level };
  if (first.trim() === "" || !Number.isFinite(value)) return null;
  if (kind === "ev") return { kind, ev100: value };
  if (value <= 0) return null;
  if (kind === "lux") return { kind, lux: value };
  const shutter_s = readShutter(second);
  return shutter_s > 0 && Number.isFinite(shutter_s)
    ? { kind, iso: value, shutter_s, lens: null }
    : null;
}
