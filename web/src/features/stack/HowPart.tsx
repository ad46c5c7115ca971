import { useReducer } from "react";

import type { Stack, StackAsked } from "../../api/client";
import { Select } from "../../ui/Field";
import { asking, nextAsking } from "./asking";
import { askedOf } from "./queries";
import { SkyPart } from "./SkyPart";
import { fixed } from "../../ui/numbers";

const ALIGNS = [
  { value: "none", text: "No alignment: tripod" },
  { value: "features", text: "Align on detail" },
  { value: "stars", text: "Align on stars" },
] as const;

interface Props {
  set: Stack;
  /** Sends what is asked; gives what is kept of it, or null if it could not be sent. */
  onAsk: (asked: StackAsked) => Promise<Stack | null>;
  onAddTakes: (takes: number[]) => void;
}

/** How frames are stacked: the rule with what it does, how they are aligned, the kind of file. */
export function HowPart({ set, onAsk, onAddTakes }: Props) {
  const kept = askedOf(set);
  const [state, tell] = useReducer(nextAsking<Asked>, kept, asking<Asked>);
  if (JSON.stringify(kept) !== JSON.stringify(state.kept)) tell({ type: "found", kept });
  const { asked } = state;
  const change = (part: Partial<Asked>) => {
    tell({ type: "changed", part });
    void onAsk({ ...asked, ...part }).then((now) =>
      tell({ type: "answered", kept: now && askedOf(now) }),
    );
  };
  const isBusy = set.state === "working";
  const files = [
    { value: "tif", text: "TIFF, 16 bits" },
    { value: "jpg", text: "JPEG" },
    ...(set.is_raw && set.align === "none" ? [{ value: "dng", text: "DNG (RAW)" }] : []),
  ];
  return (
    <fieldset disabled={isBusy} className="rounded border border-line bg-panel p-4">
      <legend className="sr-only">Stacking rule</legend>
      <h2 className="mb-2 text-lg font-semibold">Stacking rule</h2>
      <div role="radiogroup" aria-label="Rule" className="grid gap-1.5">
        {set.rules.map((rule) => (
          <label
            key={rule.combine}
            className="flex cursor-pointer gap-3 rounded border border-line p-2.5 has-checked:border-accent has-checked:bg-accent-soft"
          >
            <input
              type="radio"
              name="rule"
              className="mt-1 h-4.5 w-4.5 shrink-0 accent-(--accent)"
              checked={asked.combine === rule.combine}
              onChange={() => change({ combine: rule.combine })}
            />
            <span className="leading-snug">
              <b>{rule.name}</b>
              <span className="block text-[0.93rem]">{rule.movers}</span>
              {set.frames > 1 && (
                <span className="block text-[0.9rem] text-soft tabular-nums">
                  {rule.noise}
                  {rule.disk_gb > 0.05 && `, needs ${fixed(rule.disk_gb, 1)} GB of disk space`}
                </span>
              )}
            </span>
          </label>
        ))}
      </div>
      <div className="mt-3 grid gap-3">
        <Select
          label="Alignment"
          value={asked.align}
          options={ALIGNS}
          onChange={(align) => change({ align, ...(align === "none" ? {} : keptFile(set)) })}
        />
        <Select
          label="Save as"
          value={asked.ending}
          options={files}
          onChange={(ending) => change({ ending: ending as StackAsked["ending"] })}
        />
        <label className="flex min-h-10 cursor-pointer items-center gap-3">
          <input
            type="checkbox"
            className="h-5 w-5 accent-(--accent)"
            checked={asked.mixed}
            onChange={(event) => change({ mixed: event.target.checked })}
          />
          Mixed settings
        </label>
        <SkyPart set={set} asked={asked} onChange={change} onAddTakes={onAddTakes} />
      </div>
    </fieldset>
  );
}

type Asked = ReturnType<typeof askedOf>;

/** Frames that are moved are developed first: no DNG comes of them. */
const keptFile = (set: Stack): Partial<StackAsked> =>
  set.ending === "dng" ? { ending: "tif" } : {};
