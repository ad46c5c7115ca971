import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { filtersQuery } from "../queries";
import type { EditorProps } from "./LimitBoard";
import { precise, stops } from "../../../ui/numbers";

/** Filters of the kit, on or off the lens. */
export function FilterEditor({ body, edit }: EditorProps) {
  const { data: kit = [] } = useQuery(filtersQuery);
  const others = body.glass.filter((worn) => !kit.some((filter) => filter.name === worn.name));
  const all = [
    ...kit,
    ...others.map((other) => ({ ...other, id: other.name, stops: null, note: "not in your kit" })),
  ];
  const toggle = (name: string, factor: number) =>
    edit("filters", (b) => ({
      ...b,
      glass: b.glass.some((filter) => filter.name === name)
        ? b.glass.filter((filter) => filter.name !== name)
        : [...b.glass, { name, factor }],
      steps_by_hand: null,
    }));
  const worn = body.glass.length;
  return (
    <div className="grid gap-2">
      {all.length === 0 && <p className="text-soft">No filters in the kit yet.</p>}
      <ul className="grid gap-1">
        {all.map((known) => (
          <li key={known.id}>
            <label className="flex min-h-8 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="h-4.5 w-4.5 accent-accent max-[899px]:min-h-0"
                checked={body.glass.some((filter) => filter.name === known.name)}
                onChange={() => toggle(known.name, known.factor)}
              />
              <b>{known.name}</b>
              <span className="text-soft">
                ×{precise(known.factor, 3)}
                {known.stops !== null && `, ${stops(known.stops)}`}
                {known.note && ` · ${known.note}`}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="text-[0.88rem] text-soft">
        {worn > 1 ? "All ticked filters are on the lens together." : ""}
      </p>
      <AddFilter onAdd={(name, factor) => toggle(name, factor)} worn={worn > 0} />
    </div>
  );
}

/** A filter that is not in your kit, named as people say it. */
function AddFilter(props: { onAdd: (name: string, factor: number) => void; worn: boolean }) {
  const [words, setWords] = useState("");
  const [wrong, setWrong] = useState("");
  const add = () => {
    ask<{ name: string; factor: number }>(
      `/kit/glass/said?words=${encodeURIComponent(words)}`,
    ).then(
      (found) => {
        props.onAdd(found.name, found.factor);
        setWords("");
        setWrong("");
      },
      (error: unknown) => setWrong(error instanceof Error ? error.message : String(error)),
    );
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (words.trim()) add();
      }}
    >
      <label className="w-44">
        <span className="block text-[0.82rem] text-soft">
          {props.worn ? "Add another filter" : "Add filter"}
        </span>
        <input
          className="field"
          value={words}
          maxLength={40}
          placeholder="e.g. ND 64 or 6 stops"
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={!words.trim()}>
        Add
      </Button>
      {wrong && (
        <p role="alert" className="basis-full text-[0.9rem]">
          {wrong}
        </p>
      )}
    </form>
  );
}
