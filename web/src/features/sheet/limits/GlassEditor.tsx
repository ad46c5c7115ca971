import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";

import { glassQuery } from "../queries";
import type { EditorProps } from "./LimitBoard";

/** Filters of the kit, on or off the lens. */
export function GlassEditor({ body, edit }: EditorProps) {
  const { data: kit = [] } = useQuery(glassQuery);
  const others = body.glass.filter((worn) => !kit.some((one) => one.name === worn.name));
  const all = [
    ...kit,
    ...others.map((one) => ({ ...one, id: one.name, stops: null, note: "not in the kit" })),
  ];
  const toggle = (name: string, factor: number) =>
    edit("glass", (b) => ({
      ...b,
      glass: b.glass.some((one) => one.name === name)
        ? b.glass.filter((one) => one.name !== name)
        : [...b.glass, { name, factor }],
      steps_by_hand: null,
    }));
  if (all.length === 0)
    return (
      <p className="text-soft">
        No filters in the kit. Add yours under{" "}
        <Link href="/kit" className="underline">
          Kit
        </Link>
        .
      </p>
    );
  return (
    <ul className="grid gap-1">
      {all.map((glass) => (
        <li key={glass.id}>
          <label className="flex min-h-8 cursor-pointer items-center gap-2">
            <input
              type="checkbox"
              className="h-4.5 w-4.5 accent-accent max-[899px]:min-h-0"
              checked={body.glass.some((one) => one.name === glass.name)}
              onChange={() => toggle(glass.name, glass.factor)}
            />
            <b>{glass.name}</b>
            <span className="text-soft">
              {glass.stops === null ? `÷ ${glass.factor}` : `${glass.stops.toFixed(1)} stops`}
              {glass.note && ` · ${glass.note}`}
            </span>
          </label>
        </li>
      ))}
    </ul>
  );
}
