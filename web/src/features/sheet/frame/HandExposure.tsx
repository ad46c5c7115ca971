import { useState } from "react";

import type { SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Labelled } from "../../../ui/Field";
import { readShutter } from "../light/readShutter";
import type { PictureLight } from "../../../api/client";
import type { Edit } from "../useSheetEditor";

interface Props {
  body: SheetBody;
  light: PictureLight;
  edit: Edit;
}

/** ISO, shutter and f-number by hand, for a picture whose file does not say them. */
export function HandExposure({ body, light, edit }: Props) {
  const found = light.report.settings;
  const [iso, setIso] = useState(String(body.by_hand?.iso ?? found.iso ?? ""));
  const [shutter, setShutter] = useState(String(body.by_hand?.shutter_s ?? found.shutter_s ?? ""));
  const [aperture, setAperture] = useState(String(body.by_hand?.f_number ?? found.f_number ?? ""));
  const values = { iso: Number(iso), shutter_s: readShutter(shutter), f_number: Number(aperture) };
  const complete = Object.values(values).every((value) => Number.isFinite(value) && value > 0);
  const fields = [
    { label: "ISO", value: iso, set: setIso, hint: "such as 100" },
    { label: "Shutter, s", value: shutter, set: setShutter, hint: "1/125 or 0.5" },
    { label: "f-number", value: aperture, set: setAperture, hint: "such as 1.8" },
  ];
  return (
    <form
      className="mt-2 rounded border-2 border-ink p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (complete) edit("exposure by hand", (current) => ({ ...current, by_hand: values }));
      }}
    >
      <p className="mb-2 font-semibold">
        The file does not contain its {light.missing.join(" and ")}
      </p>
      <div className="grid grid-cols-3 gap-2">
        {fields.map((field) => (
          <Labelled key={field.label} label={field.label} hint={field.hint}>
            {(id) => (
              <input
                id={id}
                className="field"
                inputMode="decimal"
                value={field.value}
                onChange={(event) => field.set(event.target.value)}
              />
            )}
          </Labelled>
        ))}
      </div>
      <Button type="submit" look="main" className="mt-2" disabled={!complete}>
        Use these
      </Button>
    </form>
  );
}
