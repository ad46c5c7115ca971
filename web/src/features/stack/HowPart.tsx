/// <reference types="vite/client" />
import { useReducer } from "react";

import type { Stack, StackAsked } from "../../api/client";
import { Select } from "../../ui/Field";
import { asking, nextAsking } from "./asking";
import { askedOf } from "./queries";
import { SkyPart } from "./SkyPart";
import { fileSize } from "../../ui/numbers";

const LOOKS = import.meta.glob<string>("./looks/*.jpg", {
  eager: true,
  query: "?url",
  import: "default",
});

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
      <legend className="sr-only">Stacking</legend>
      <h2 className="mb-2 text-lg font-semibold">What happens to what moves?</h2>
      <div
        role="radiogroup"
        aria-label="What happens to what moves?"
        className="grid grid-cols-2 gap-2 sm:grid-cols-3 lg:grid-cols-2"
      >
        {set.rules.map((rule) => (
          <label
            key={rule.combine}
            className="grid cursor-pointer content-start gap-1 rounded border border-line p-2 has-checked:border-accent has-checked:bg-accent-soft"
          >
            <img
              src={LOOKS[`./looks/${rule.combine}.jpg`]}
              alt=""
              className="block aspect-4/3 w-full rounded-xs object-cover"
              style={{ filter: "var(--picture-filter)" }}
            />
            <span className="flex items-center gap-2">
              <input
                type="radio"
                name="rule"
                className="h-4.5 w-4.5 shrink-0 accent-(--accent)"
                checked={asked.combine === rule.combine}
                onChange={() => change({ combine: rule.combine })}
              />
              <b className="leading-tight">{rule.outcome}</b>
            </span>
            {set.frames > 1 && (
              <span className="text-[0.88rem] leading-snug text-soft tabular-nums">
                {rule.noise}
                {rule.disk_gb > 0.05 && `, needs ${fileSize(1000 * rule.disk_gb)}`}
              </span>
            )}
          </label>
        ))}
      </div>
      <details>
        <summary className="min-h-9 cursor-pointer py-1.5 max-[899px]:min-h-11">Why?</summary>
        <ul className="grid gap-1 text-[0.93rem] leading-snug">
          {set.rules.map((rule) => (
            <li key={rule.combine}>
              <b>{rule.name}:</b> {rule.movers}
            </li>
          ))}
        </ul>
      </details>
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
        <label className="flex min-h-11 cursor-pointer items-center gap-3">
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
