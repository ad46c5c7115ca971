import type { SheetBody } from "../../../api/client";
import { NumberField, Select, TextField } from "../../../ui/Field";
import type { Edit } from "../useSheetEditor";
import { type Path, valueAt, withAt } from "./bodyPath";
import { useAsks } from "./useAsks";

interface Props {
  body: SheetBody;
  path: Path;
  edit: Edit;
  /** What the edit is called in the list of edits. */
  does: string;
  label?: string;
  unit?: string;
  hint?: string | undefined;
  placeholder?: string;
  /** What is shown there while the field is left open. */
  usual?: number | null | undefined;
  /** Ends that are closer than what the field takes at all. */
  low?: number | null;
  high?: number | null;
  /** Changes something else together with the field. */
  also?: (body: SheetBody) => SheetBody;
}

const unchanged = (body: SheetBody): SheetBody => body;

/** One field of what is asked for, with its range, unit and choices as the core has them. */
export function AskField(props: Props) {
  const { body, path, edit, does, usual, placeholder, also = unchanged } = props;
  const field = useAsks().field(path);
  const set = (next: unknown) =>
    edit(does, (b) => ({ ...also(withAt(b, path, next)), steps_by_hand: null }));
  const value = plainValue(valueAt(body, path)) ?? usual ?? null;
  const label = props.label ?? field?.label ?? String(path[path.length - 1]);
  if (field?.choices) {
    // Left open it says so: a list would else show its first choice as if it were chosen.
    const open = (field.default ?? null) === null;
    return (
      <Select
        label={label}
        hint={props.hint}
        value={String(value ?? field.default ?? "")}
        options={open ? [{ value: "", text: "not set" }, ...field.choices] : field.choices}
        onChange={(next) => set(next || null)}
      />
    );
  }
  if (typeof (value ?? field?.default) === "string")
    return <TextField {...{ label, placeholder }} value={String(value ?? "")} onCommit={set} />;
  return (
    <NumberField
      label={label}
      unit={props.unit ?? field?.unit ?? ""}
      value={typeof value === "number" ? value : null}
      low={props.low ?? field?.low}
      high={props.high ?? field?.high}
      {...(placeholder === undefined ? {} : { placeholder })}
      onCommit={(number) => set(field?.whole && number !== null ? Math.round(number) : number)}
    />
  );
}

/** A value that a field can show; anything else is left to an editor of its own. */
function plainValue(value: unknown): string | number | boolean | null {
  return typeof value === "string" || typeof value === "number" || typeof value === "boolean"
    ? value
    : null;
}
