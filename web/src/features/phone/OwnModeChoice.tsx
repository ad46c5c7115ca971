import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { KitPhone, OwnMode } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select, TextField } from "../../ui/Field";
import { nameOwnMode } from "./queries";

const KINDS: { value: OwnMode["kind"]; text: string }[] = [
  { value: "filter", text: "Long-exposure filter" },
  { value: "night", text: "Night" },
  { value: "merged", text: "Merged RAW" },
  { value: "stacked", text: "Stacked frames" },
];

interface Props {
  phone: KitPhone;
  lens: { id: string; name: string };
  /** A mode to measure, and the phone that has it: a copy of one that ships with Oxlen. */
  onChosen: (mode: { id: string; name: string }, phone: string) => void;
}

/** Which of the modes that the phone computes is to be measured; another can be named. */
export function OwnModeChoice({ phone, lens, onChosen }: Props) {
  const { profile } = phone;
  const known = profile.computed.filter((mode) => mode.lenses.includes(lens.id));
  const [name, setName] = useState("");
  const [kind, setKind] = useState<OwnMode["kind"]>("filter");
  const [problem, setProblem] = useState<string | null>(null);
  const client = useQueryClient();
  const add = async () => {
    try {
      const kept = await nameOwnMode(profile.id, { name, kind, lens: lens.id });
      await client.invalidateQueries({ queryKey: ["phones"] });
      const made = kept.profile.computed.find((mode) => mode.name === name);
      if (made) onChosen(made, kept.profile.id);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div className="max-w-[34rem]">
      <ul className="grid gap-2">
        {known.map((mode) => (
          <li key={mode.id} className="flex items-center gap-3">
            <span className="flex-1">
              <b>{mode.name}</b>{" "}
              <span className="text-soft">
                {mode.frames ? `${mode.frames} frames` : "frames not measured yet"}
              </span>
            </span>
            <Button look="main" onClick={() => onChosen(mode, profile.id)}>
              Measure
            </Button>
          </li>
        ))}
      </ul>
      <fieldset className="mt-4 grid gap-3 border-t border-line pt-3">
        <legend className="pr-2 font-semibold">
          {known.length > 0 ? "Add mode" : "Enter a name first"}
        </legend>
        <TextField
          label="Name in menu"
          value={name}
          maxLength={60}
          onCommit={(text) => setName(text.trim())}
        />
        <Select label="Purpose" value={kind} options={KINDS} onChange={setKind} />
        {problem && (
          <p role="alert" className="rounded border-2 border-ink bg-raised p-2">
            {problem}
          </p>
        )}
        <p>
          <Button disabled={name === ""} onClick={() => void add()}>
            Add and measure
          </Button>
        </p>
      </fieldset>
    </div>
  );
}
