import { ToggleGroup } from "radix-ui";

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string; title?: string }[];
  onChange: (value: T) => void;
}

/** One of a few, all in view. */
export function Segmented<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => {
        if (next) onChange(next as T);
      }}
      className="flex w-full overflow-hidden rounded border border-strong bg-raised"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.title}
          className="min-h-9 flex-1 border-l border-line px-2 text-[0.92rem] leading-tight first:border-l-0 hover:bg-sunk data-[state=on]:bg-accent data-[state=on]:text-on-accent"
        >
          {option.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
