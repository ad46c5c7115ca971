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

/** Focus method, what must be sharp, and a clip-on lens. */
export function FocusSettings({ body, edit }: EditorProps) {
  const { field } = useAsks();
  const { data: kit = [] } = useQuery(clipOnsQuery);
  const { focus } = body;
  const change = (does: string, part: Partial<Focus>) =>
    edit(does, (b) => ({ ...b, focus: { ...b.focus, ...part }, steps_by_hand: null }));
  const worn = kit.find((one) => one.clip_on.name === focus.clip_on?.name);
  const clipOns = [
    { value: "", text: "none" },
    ...kit.map(({ id, clip_on }) => ({
      value: id,
      text: `${clip_on.name}, ${clip_on.dioptres} dioptres`,
    })),
    ...(focus.clip_on && !worn ? [{ value: "own", text: focus.clip_on.name }] : []),
  ];
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-[1.6fr_1fr_1fr] gap-2 max-md:grid-cols-1">
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
        <AskField
          {...{ body, edit, does: "focus" }}
          path={["focus", "on"]}
          label="Focus on"
          placeholder="the subject"
        />
        <AskField
          {...{ body, edit, does: "focus" }}
          path={["focus", "stand_in"]}
          label="Focus target before"
          placeholder="none"
        />
      </div>
      <div className="grid grid-cols-5 gap-2 max-md:grid-cols-2">
        {NUMBERS.map((name) => (
          <AskField
            key={name}
            {...{ body, edit, does: "focus" }}
            path={["focus", name]}
            placeholder="not set"
          />
        ))}
      </div>
      <div className="grid grid-cols-2 gap-2 max-md:grid-cols-1">
        <Select
          label="Clip-on lens"
          value={focus.clip_on ? (worn?.id ?? "own") : ""}
          options={clipOns}
          onChange={(next) =>
            next !== "own" &&
            change("clip-on", { clip_on: kit.find((one) => one.id === next)?.clip_on ?? null })
          }
        />
        <AskField {...{ body, edit, does: "focus" }} path={["focus", "sharp_at"]} />
      </div>
    </div>
  );
}
