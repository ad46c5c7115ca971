import { useState } from "react";

import type { EditsClash } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import type { EditClash } from "./editing";
import type { Editor } from "./useSheetEditor";

interface Props {
  clash: EditClash;
  settle: Editor["settle"];
  postpone: Editor["postpone"];
}

const nameOf = (clash: EditsClash) => clash.path.join("/");

/** Two edits of the same things, side by side: which of them is to hold. */
export function ClashDialog({ clash, settle, postpone }: Props) {
  const { clashes } = clash.found;
  const [mine, setMine] = useState<ReadonlySet<string>>(() => new Set(clashes.map(nameOf)));
  const choose = (clash: EditsClash, isMine: boolean) => {
    const next = new Set(mine);
    if (isMine) next.add(nameOf(clash));
    else next.delete(nameOf(clash));
    setMine(next);
  };
  const keep = () =>
    settle(clashes.filter((clash) => mine.has(nameOf(clash))).map((clash) => clash.path));
  return (
    <Dialog title="Changed here and elsewhere" open onOpenChange={(open) => !open && postpone()}>
      <p className="mb-3">
        This sheet was changed elsewhere while your edit waited on this device. Choose which version
        to keep. Everything else is merged.
      </p>
      <ul className="grid gap-3">
        {clashes.map((clash) => (
          <li key={nameOf(clash)}>
            <fieldset>
              <legend className="mb-1 font-semibold">{clash.name}</legend>
              <div className="grid grid-cols-2 gap-2">
                <Choice
                  of={clash}
                  from="Here"
                  value={clash.mine}
                  chosen={mine.has(nameOf(clash))}
                  onChoose={() => choose(clash, true)}
                />
                <Choice
                  of={clash}
                  from="Elsewhere"
                  value={clash.theirs}
                  chosen={!mine.has(nameOf(clash))}
                  onChoose={() => choose(clash, false)}
                />
              </div>
              <p className="mt-1 text-[0.88rem] text-soft">Before: {clash.before}</p>
            </fieldset>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="main" className="min-h-12" onClick={keep}>
          Keep selected
        </Button>
        <Button className="min-h-12" onClick={() => settle([])}>
          Discard mine
        </Button>
      </div>
    </Dialog>
  );
}

interface ChoiceProps {
  of: EditsClash;
  from: string;
  value: string;
  chosen: boolean;
  onChoose: () => void;
}

function Choice({ of, from, value, chosen, onChoose }: ChoiceProps) {
  return (
    <label
      className={`flex min-h-14 cursor-pointer items-start gap-2 rounded border p-2 ${chosen ? "border-2 border-accent bg-accent-soft" : "border-strong"}`}
    >
      <input
        type="radio"
        name={nameOf(of)}
        aria-label={`${from}: ${value}`}
        checked={chosen}
        onChange={onChoose}
        className="mt-1"
      />
      <span className="min-w-0">
        <span className="block text-[0.85rem] text-soft">{from}</span>
        <b className="break-words">{value}</b>
      </span>
    </label>
  );
}
