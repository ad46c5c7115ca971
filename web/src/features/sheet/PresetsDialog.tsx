import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { Ask, Preset, PresetView, SheetBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { useSay } from "../../ui/Notices";
import { ev } from "../../ui/numbers";
import { saveJson } from "../saveJson";
import { useAsks } from "./limits/useAsks";
import { dropPreset, presetsQuery, putPreset } from "./queries";
import type { Edit } from "./useSheetEditor";

interface Props {
  body: SheetBody;
  edit: Edit;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** Choices that worked: apply them to this sheet's light, keep this sheet's own, pass them on. */
export function PresetsDialog({ body, edit, open, onOpenChange }: Props) {
  const { data: presets = [] } = useQuery({ ...presetsQuery, enabled: open });
  const client = useQueryClient();
  const say = useSay();
  const [name, setName] = useState("");
  const { asks } = useAsks();

  const keep = (preset: Preset) =>
    putPreset(preset).then(
      () => {
        say(`“${preset.name}” saved.`);
        setName("");
        return client.invalidateQueries({ queryKey: presetsQuery.queryKey });
      },
      (error: unknown) => say(error instanceof Error ? error.message : String(error)),
    );
  const remove = (id: string) =>
    dropPreset(id).then(() => client.invalidateQueries({ queryKey: presetsQuery.queryKey }));
  const apply = (preset: Preset) => {
    edit(`preset ${preset.name}`, (b) => ({ ...b, ...preset.choices, steps_by_hand: null }));
    onOpenChange(false);
    say(`“${preset.name}” applied.`);
  };
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      await keep(JSON.parse(await file.text()) as Preset);
    } catch {
      say(`${file.name} is not valid JSON. Choose a preset file (.json).`);
    }
  };
  return (
    <Dialog title="Presets" wide open={open} onOpenChange={onOpenChange}>
      <div className="mb-3 flex flex-wrap items-end gap-2 border-b border-line pb-3">
        <label className="min-w-52 flex-1">
          <span className="block text-[0.82rem] text-soft">Name for this sheet's choices</span>
          <input
            className="field"
            value={name}
            maxLength={60}
            placeholder="e.g. Walkers on the quay"
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button
          look="main"
          disabled={!name.trim()}
          onClick={() => void keep(presetOf(asks, body, { name: name.trim(), others: presets }))}
        >
          Save
        </Button>
        <label className="inline-flex min-h-9 cursor-pointer items-center rounded border border-strong bg-raised px-3 focus-within:outline-3 focus-within:outline-accent">
          Import file
          <input
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={(event) => {
              void read(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
      </div>
      {grouped(presets).map(([group, views]) => (
        <section key={group} aria-label={group} className="mb-4">
          <h3 className="mb-1 text-lg font-semibold">{group}</h3>
          <ul className="grid gap-2 md:grid-cols-2">
            {views.map((view) => (
              <PresetCard
                key={view.preset.id}
                {...{ view, body }}
                onApply={apply}
                onRemove={remove}
              />
            ))}
          </ul>
        </section>
      ))}
    </Dialog>
  );
}

function PresetCard(props: {
  view: PresetView;
  body: SheetBody;
  onApply: (preset: Preset) => void;
  onRemove: (id: string) => Promise<unknown>;
}) {
  const { preset, shipped } = props.view;
  const { asks } = useAsks();
  return (
    <li className="grid grid-cols-[1fr_auto] content-start gap-x-3 rounded border border-line bg-raised p-2">
      <b>{preset.name}</b>
      <Button
        look="main"
        className="row-span-2 self-center"
        aria-label={`Apply ${preset.name}`}
        onClick={() => props.onApply(preset)}
      >
        Apply
      </Button>
      <div className="grid gap-0.5 text-[0.88rem] leading-snug">
        <p className="text-soft">{preset.note}</p>
        {preset.light_ev100 && (
          <p>
            For light from {ev(preset.light_ev100[0])} to {ev(preset.light_ev100[1])}
            {preset.needs ? `. ${preset.needs}` : ""}
          </p>
        )}
        <p className="text-soft">{replacedWords(asks, props.body, preset)}</p>
      </div>
      <div className="col-span-2 mt-1 flex gap-1 text-[0.88rem]">
        <Button look="quiet" onClick={() => saveJson(preset, `${preset.id}.json`)}>
          Export
        </Button>
        {!shipped && (
          <Button
            look="quiet"
            aria-label={`Delete ${preset.name}`}
            onClick={() => void props.onRemove(preset.id)}
          >
            Delete
          </Button>
        )}
        <span className="ml-auto self-center text-soft">{shipped ? "built in" : "yours"}</span>
      </div>
    </li>
  );
}

/** By what they are for; one's own first. */
function grouped(presets: readonly PresetView[]): [string, PresetView[]][] {
  const groups = new Map<string, PresetView[]>();
  for (const view of presets) {
    const name = view.shipped ? view.preset.group || "Others" : "Yours";
    groups.set(name, [...(groups.get(name) ?? []), view]);
  }
  const rank = ([name]: [string, PresetView[]]) => (name === "Yours" ? 0 : 1);
  return [...groups].sort((a, b) => rank(a) - rank(b));
}

/** Which of the sheet's choices a preset puts others in place of. */
function replacedWords(asks: readonly Ask[], body: SheetBody, preset: Preset): string {
  const now = choicesOf(asks, body);
  const then = choicesOf(asks, preset.choices);
  const names = asks
    .filter((ask) => JSON.stringify(now[ask.name]) !== JSON.stringify(then[ask.name]))
    .map((ask) => ask.label.toLowerCase());
  return names.length ? `Replaces ${names.join(", ")}` : "Same as this sheet";
}

/** What a preset keeps: all that is asked for but of the phone itself. */
function choicesOf(asks: readonly Ask[], from: object): Record<string, unknown> {
  const kept = new Set(asks.filter((ask) => !ask.of_phone).map((ask) => ask.name));
  return Object.fromEntries(Object.entries(from).filter(([name]) => kept.has(name)));
}

interface Named {
  name: string;
  others: readonly PresetView[];
}

function presetOf(asks: readonly Ask[], body: SheetBody, { name, others }: Named): Preset {
  const stem = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 36);
  const taken = new Set(others.map((view) => view.preset.id));
  let id = stem || "preset";
  for (let number = 2; taken.has(id); number += 1) id = `${stem || "preset"}-${number}`;
  const choices = choicesOf(asks, body) as Preset["choices"];
  const note = body.intent.slice(0, 600);
  return {
    format: "oxlen-preset/1",
    id,
    name,
    note,
    light_ev100: null,
    needs: "",
    group: "",
    choices,
  };
}
