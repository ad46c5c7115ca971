import type { LimitField, LimitSettings } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField, Select } from "../../ui/Field";
import { withAt } from "./bodyPath";
import type { Edit } from "./useSheetEditor";

interface Props {
  settings: LimitSettings;
  edit: Edit;
  onDropped?: () => void;
}

/** The fields a limit rests on, to be changed where the limit is shown. */
export function LimitEditor({ settings, edit, onDropped }: Props) {
  const change = (field: LimitField, value: string | number | null) =>
    edit(field.label.toLowerCase(), (body) => ({
      ...withAt(body, field.path, value),
      held: null,
    }));
  const drop = () => {
    edit("drop limit", (body) => {
      const free = { ...body, held: null };
      const index = settings.index;
      if (settings.drop === "motion")
        return { ...free, motion: body.motion.filter((_, at) => at !== index) };
      if (settings.drop === "looks")
        return { ...free, looks: body.looks.filter((_, at) => at !== index) };
      if (settings.drop === "flicker") return { ...free, flicker: null };
      if (settings.drop === "output") return { ...free, output: { ...body.output, snr: "any" } };
      return { ...free, school: { ...body.school, iso_cap: null } };
    });
    onDropped?.();
  };
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-2 gap-2">
        {settings.fields.map((field) => (
          <OneField
            key={field.path.join(".")}
            field={field}
            onChange={(value) => change(field, value)}
          />
        ))}
      </div>
      {settings.drop && <Button onClick={drop}>Drop this limit</Button>}
    </div>
  );
}

function OneField({
  field,
  onChange,
}: {
  field: LimitField;
  onChange: (value: string | number | null) => void;
}) {
  if (field.choices)
    return (
      <Select
        label={field.label}
        value={String(field.value)}
        options={field.choices}
        onChange={onChange}
      />
    );
  return (
    <NumberField
      label={field.label}
      unit={field.unit}
      value={typeof field.value === "number" ? field.value : null}
      low={field.low}
      high={field.high}
      onCommit={(value) => value !== null && onChange(value)}
    />
  );
}
