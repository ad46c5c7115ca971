import { type ReactNode, useState } from "react";

import { Button } from "../../ui/Button";
import { NumberField, TextField } from "../../ui/Field";

export interface DrawerItem {
  id: string;
  name: string;
  facts: string;
}
interface Asked {
  label: string;
  unit?: string;
  low: number;
  high: number;
  placeholder: string;
  /** Left open it is null; without it nothing is added. */
  optional?: boolean;
}

interface Props {
  title: string;
  items: readonly DrawerItem[];
  asked: readonly Asked[];
  add: string;
  onAdd: (id: string, name: string, numbers: (number | null)[]) => void;
  onDrop: (id: string) => void;
  children?: ReactNode;
}

/** Things of one kind in the kit: what is known of each, and a row to add another. */
export function KitDrawer({ title, items, asked, add, onAdd, onDrop, children }: Props) {
  const [name, setName] = useState("");
  const [numbers, setNumbers] = useState<(number | null)[]>(asked.map(() => null));
  const ready =
    name.trim() !== "" && asked.every((item, at) => item.optional || numbers[at] != null);
  const keep = () => {
    onAdd(idFor(name, items), name.trim(), numbers);
    setName("");
    setNumbers(asked.map(() => null));
  };
  return (
    <section aria-label={title} className="mt-5">
      <h2 className="mb-1 text-lg font-semibold">{title}</h2>
      <ul className="mb-2 grid">
        {items.map((item) => (
          <li key={item.id} className="flex items-center gap-2 border-b border-line py-0.5">
            <span className="min-w-0 flex-1 leading-tight">
              <b>{item.name}</b>
              <span className="block text-[0.84rem] text-soft">{item.facts}</span>
            </span>
            <Button look="quiet" aria-label={`Delete ${item.name}`} onClick={() => onDrop(item.id)}>
              ×
            </Button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-2">
        <TextField label="Name" value={name} maxLength={60} onCommit={setName} />
        {asked.map((item, at) => (
          <NumberField
            key={item.label}
            label={item.label}
            unit={item.unit ?? ""}
            value={numbers[at] ?? null}
            low={item.low}
            high={item.high}
            placeholder={item.placeholder}
            onCommit={(value) => setNumbers((all) => all.map((old, i) => (i === at ? value : old)))}
          />
        ))}
      </div>
      {children}
      <Button className="mt-2" onClick={keep} disabled={!ready}>
        {add}
      </Button>
    </section>
  );
}

/** An id from a name, another than those there are. */
export function idFor(name: string, items: readonly { id: string }[]): string {
  const stem = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 36);
  const taken = items.some((item) => item.id === stem);
  return (taken ? `${stem}-${items.length + 1}` : stem) || `item-${items.length + 1}`;
}
