import { ToggleGroup } from "radix-ui";

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: string; title?: string }[];
  onChange: (value: T) => void;
  small?: boolean;
}

/** One of a few, all in view. */
export function Segmented<T extends string>(props: Props<T>) {
  const { label, value, options, onChange, small = false } = props;
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => {
        if (next) onChange(next as T);
      }}
      className="flex w-full flex-wrap overflow-hidden rounded border border-strong bg-raised"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.title}
          className={`${small ? "bare min-h-7 px-1.5 text-[0.85rem] max-[899px]:min-h-11" : "min-h-9 px-2 text-[0.92rem]"} min-w-min flex-1 border-l border-line leading-tight first:border-l-0 hover:bg-sunk data-[state=on]:bg-accent data-[state=on]:text-on-accent`}
        >
          {option.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
