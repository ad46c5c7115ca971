import { type ComponentProps, type ReactNode, useEffect, useId, useRef, useState } from "react";
import { precise } from "./numbers";
import { typed } from "./typed";

/** A label over its control. */
export function Labelled({
  label,
  children,
  hint,
}: {
  label: string;
  children: (id: string) => ReactNode;
  hint?: ReactNode;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-[0.82rem] text-soft">
        {label}
      </label>
      {children(id)}
      {hint && <p className="mt-0.5 text-[0.8rem] leading-tight text-soft">{hint}</p>}
    </div>
  );
}

interface SelectProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
  hint?: ReactNode;
}

/** A choice among many. */
export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel,
  hint,
}: SelectProps<T>) {
  const list = (id?: string) => (
    <select
      id={id}
      aria-label={hideLabel ? label : undefined}
      className="field"
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.text}
        </option>
      ))}
    </select>
  );
  return hideLabel ? (
    list()
  ) : (
    <Labelled label={label} hint={hint}>
      {list}
    </Labelled>
  );
}

interface TextProps extends Omit<ComponentProps<"input">, "value" | "onChange"> {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  hideLabel?: boolean;
  /** Shown under the field. */
  hint?: ReactNode;
}

const IDLE_MS = 500;

/** Text that is kept shortly after typing stops, and at once when the field is left. */
export function TextField(props: TextProps) {
  const { label, value, onCommit, hideLabel, hint, className, ...rest } = props;
  const [text, setText] = useState(value);
  const [seen, setSeen] = useState(value);
  const timer = useRef<number>(undefined);
  if (value !== seen) {
    setSeen(value);
    setText(value);
  }
  useEffect(() => () => window.clearTimeout(timer.current), []);
  const commit = (next: string) => {
    window.clearTimeout(timer.current);
    if (next !== value) onCommit(next);
  };
  const input = (id?: string) => (
    <input
      id={id}
      aria-label={hideLabel ? label : undefined}
      className={className ?? "field"}
      value={text}
      onChange={(event) => {
        const next = event.target.value;
        setText(next);
        window.clearTimeout(timer.current);
        timer.current = window.setTimeout(() => commit(next), IDLE_MS);
      }}
      onBlur={() => commit(text)}
      onKeyDown={(event) => {
        if (event.key === "Enter") commit(text);
      }}
      {...rest}
    />
  );
  return hideLabel ? (
    input()
  ) : (
    <Labelled label={label} hint={hint}>
      {input}
    </Labelled>
  );
}

interface NumberProps {
  label: string;
  unit?: string;
  value: number | null;
  low?: number | null | undefined;
  high?: number | null | undefined;
  placeholder?: string;
  /** Digits that are shown. */
  digits?: number;
  onCommit: (value: number | null) => void;
}

/** A number, typed in its unit or another of its kind; outside its range it is refused, with a message. */
export function NumberField(props: NumberProps) {
  const { label, unit, value, low, high, placeholder, digits = 4, onCommit } = props;
  const [refused, setRefused] = useState(false);
  const text = value === null ? "" : String(precise(value, digits));
  const commit = (next: string) => {
    if (next.trim() === "") {
      setRefused(false);
      onCommit(null);
      return;
    }
    const number = typed(next, unit);
    const inside = number >= (low ?? -Infinity) && number <= (high ?? Infinity);
    setRefused(!inside);
    if (inside) onCommit(number);
  };
  return (
    <TextField
      label={unit ? `${label}, ${unit}` : label}
      value={text}
      inputMode="decimal"
      placeholder={placeholder}
      aria-invalid={refused || undefined}
      hint={
        refused && (
          <span role="status">{`Enter a number${rangeWords(low, high)}. Still ${text || "none"}.`}</span>
        )
      }
      onCommit={commit}
    />
  );
}

function rangeWords(low?: number | null, high?: number | null): string {
  const [from, to] = [low ?? null, high ?? null].map((end) => end && precise(end, 4));
  if (from !== null && to !== null) return ` from ${from} to ${to}`;
  return from !== null ? ` of at least ${from}` : to !== null ? ` of at most ${to}` : "";
}
