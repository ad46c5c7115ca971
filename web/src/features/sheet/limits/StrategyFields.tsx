import { useQuery } from "@tanstack/react-query";

import type { SheetBody } from "../../../api/client";
import { Labelled, Select } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { phonesQuery } from "../queries";
import { writtenShutter } from "../light/readShutter";
import { GivenUp } from "./GivenUp";
import type { EditorProps } from "./LimitBoard";
import { AskField } from "./AskField";
import { useAsks } from "./useAsks";

const ISO_TITLES: Record<string, string> = {
  usual: "Moving: shutter first. Handheld: safe shutter. Tripod: lowest ISO.",
  floor: "Lowest ISO; the shutter follows",
  ceiling: "ISO rises to your cap for a safer shutter",
  shutter_first: "The shutter decides; ISO pays",
  steady: "1 or 2 stops shorter than your safe shutter",
};
const USUAL = "usual";
const NONE = "none";

/** How to decide where experienced people differ. */
export function StrategyFields({ body, edit }: EditorProps) {
  const { data: phones = [] } = useQuery(phonesQuery);
  const profile = phones.find((entry) => entry.profile.id === body.phone)?.profile;
  const lens = profile?.lenses.find((each) => each.id === body.lens) ?? profile?.lenses[0];
  const mode = lens?.modes.find((each) => each.id === body.mode) ?? lens?.modes[0];
  const ladder = mode && profile?.ladders[mode.manual];
  const { strategy } = body;
  const { field } = useAsks();
  const isoChoices = (field(["strategy", "iso"])?.choices ?? []).map((choice) => ({
    ...choice,
    title: ISO_TITLES[choice.value] ?? "",
  }));
  const change = (label: string, part: Partial<SheetBody["strategy"]>) =>
    edit(label, (b) => ({ ...b, strategy: { ...b.strategy, ...part } }));
  return (
    <>
      <Labelled label="ISO strategy" hint={ISO_TITLES[strategy.iso ?? USUAL]}>
        {() => (
          <Segmented
            label="ISO strategy"
            value={strategy.iso ?? USUAL}
            options={[{ value: USUAL, text: "Automatic" }, ...isoChoices]}
            onChange={(iso) =>
              change("ISO strategy", { iso: iso === USUAL ? null : (iso as typeof strategy.iso) })
            }
          />
        )}
      </Labelled>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="ISO cap"
          value={strategy.iso_cap == null ? NONE : String(strategy.iso_cap)}
          options={[
            { value: NONE, text: "none" },
            ...options(ladder?.iso, strategy.iso_cap, (iso) => `ISO ${iso}`),
          ]}
          onChange={(cap) => change("ISO cap", { iso_cap: cap === NONE ? null : Number(cap) })}
        />
        <Select
          label="Fixed ISO"
          value={strategy.iso_fixed == null ? NONE : String(strategy.iso_fixed)}
          options={[
            { value: NONE, text: "free" },
            ...options(ladder?.iso, strategy.iso_fixed, (iso) => `ISO ${iso}`),
          ]}
          onChange={(iso) => change("ISO fixed", { iso_fixed: iso === NONE ? null : Number(iso) })}
        />
        <AskField {...{ body, edit, does: "exposure aim" }} path={["strategy", "exposure"]} />
      </div>
      <GivenUp {...{ body, edit }} />
      {strategy.iso === "shutter_first" && (
        <Select
          label="Shutter wanted"
          value={strategy.shutter_s == null ? NONE : String(strategy.shutter_s)}
          options={[
            { value: NONE, text: "from the motion" },
            ...options(ladder?.shutter_s, strategy.shutter_s, sayShutter),
          ]}
          onChange={(t) => change("shutter wanted", { shutter_s: t === NONE ? null : Number(t) })}
        />
      )}
    </>
  );
}

function sayShutter(seconds: number): string {
  return `${writtenShutter(seconds)} s`;
}

/** Steps as options, with a value already chosen even when the phone has no such step. */
function options(
  steps: number[] | undefined,
  chosen: number | null | undefined,
  say: (v: number) => string,
) {
  const all = [...(steps ?? [])];
  if (chosen != null && !all.includes(chosen)) all.push(chosen);
  return all.map((value) => ({ value: String(value), text: say(value) }));
}
