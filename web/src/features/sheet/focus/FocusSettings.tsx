import { useQuery } from "@tanstack/react-query";

import type { SheetBody } from "../../../api/client";
import { Labelled, Select } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { AskField } from "../limits/AskField";
import type { EditorProps } from "../limits/LimitBoard";
import { useAsks } from "../limits/useAsks";
import { clipOnsQuery } from "../queries";

type Focus = SheetBody["focus"];
const NUMBERS = ["distance_m", "near_m", "far_m", "background_m", "thing_mm"] as const;
/** Shown once one of them is set. */
const MORE = ["near_m", "far_m", "background_m", "thing_mm", "on", "stand_in"] as const;

/** Focus method, what must be sharp, and a clip-on lens. */
export function FocusSettings({ body, edit }: EditorProps) {
  const { field } = useAsks();
  const { data: kit = [] } = useQuery(clipOnsQuery);
  const { focus } = body;
  const change = (does: string, part: Partial<Focus>) =>
    edit(does, (b) => ({ ...b, focus: { ...b.focus, ...part }, steps_by_hand: null }));
  const worn = kit.find((clip) => clip.clip_on.name === focus.clip_on?.name);
  const clipOns = [
    { value: "", text: "none" },
    ...kit.map(({ id, clip_on }) => ({
      value: id,
      text: `${clip_on.name}, ${clip_on.dioptres} dioptres`,
    })),
    ...(focus.clip_on && !worn ? [{ value: "own", text: focus.clip_on.name }] : []),
  ];
  const isMore = MORE.some((name) => Boolean(focus[name])) || focus.sharp_at !== "output";
  const number = (name: (typeof NUMBERS)[number]) => (
    <AskField
      key={name}
      {...{ body, edit, does: "focus" }}
      path={["focus", name]}
      placeholder="not set"
    />
  );
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-[1.8fr_0.8fr_1.2fr] gap-2 max-md:grid-cols-1">
        <Labelled label="Focus method">
          {() => (
            <Segmented
              small
              label="Focus method"
              value={focus.strategy}
              options={(field(["focus", "strategy"])?.choices ?? []).map((choice) => ({
                ...choice,
                value: choice.value as Focus["strategy"],
              }))}
              onChange={(strategy) => change("focus", { strategy })}
            />
          )}
        </Labelled>
        {number("distance_m")}
        <Select
          label="Clip-on lens"
          value={focus.clip_on ? (worn?.id ?? "own") : ""}
          options={clipOns}
          onChange={(next) =>
            next !== "own" &&
            change("clip-on", { clip_on: kit.find((clip) => clip.id === next)?.clip_on ?? null })
          }
        />
      </div>
      <details open={isMore}>
        <summary className="min-h-8 cursor-pointer py-1 max-[899px]:min-h-11">More</summary>
        <div className="grid grid-cols-4 gap-2 max-md:grid-cols-2">
          {NUMBERS.slice(1).map(number)}
        </div>
        <div className="mt-2 grid grid-cols-3 gap-2 max-md:grid-cols-1">
          <AskField
            {...{ body, edit, does: "focus" }}
            path={["focus", "on"]}
            label="Focus on"
            placeholder="the subject"
          />
          <AskField
            {...{ body, edit, does: "focus" }}
            path={["focus", "stand_in"]}
            label="Stand-in target"
            placeholder="none"
          />
          <AskField {...{ body, edit, does: "focus" }} path={["focus", "sharp_at"]} />
        </div>
      </details>
    </div>
  );
}
