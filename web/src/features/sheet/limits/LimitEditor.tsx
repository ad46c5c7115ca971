import type { EditableField, LimitFields } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { NumberField, Select } from "../../../ui/Field";
import { withAt } from "./bodyPath";
import type { Edit } from "../useSheetEditor";

interface Props {
  fields: LimitFields;
  edit: Edit;
  onDropped?: () => void;
}

/** The fields a limit rests on, to be changed where the limit is shown. */
export function LimitEditor({ fields, edit, onDropped }: Props) {
  const change = (field: EditableField, value: string | number | null) =>
    edit(field.label.toLowerCase(), (body) => ({
      ...withAt(body, field.path, value),
      steps_by_hand: null,
    }));
  const drop = () => {
    edit("drop limit", (body) => ({ ...body, ...fields.dropped }));
    onDropped?.();
  };
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-2 gap-2">
        {fields.fields.map((field) => (
          <OneField
            key={field.path.join(".")}
            field={field}
            onChange={(value) => change(field, value)}
          />
        ))}
      </div>
      {fields.dropped && <Button onClick={drop}>Drop this limit</Button>}
    </div>
  );
}

function OneField({
  field,
  onChange,
}: {
  field: EditableField;
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
