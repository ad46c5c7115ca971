import { useId } from "react";

interface Props {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** A box to tick, with its label beside it. */
export function CheckField({ label, checked, onChange }: Props) {
  const id = useId();
  return (
    <span className="flex min-h-11 items-center gap-2">
      <input
        id={id}
        type="checkbox"
        className="h-5 w-5 accent-(--accent)"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      <label htmlFor={id}>{label}</label>
    </span>
  );
}
