import { useState } from "react";

import type { KitPhone, LadderFound } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { NumberField } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { DropZone, PickButton } from "../outings/DropZone";
import { LadderCurve } from "./LadderCurve";
import { LadderPicture } from "./LadderPicture";
import { keepSliderPoint } from "./queries";
import { type Rung, useLadder } from "./useLadder";
import { precise, rounded } from "../../ui/numbers";

interface Props {
  phone: { id: string; name: string; shipped: boolean };
  lens: { id: string; name: string };
  clipOn?: string;
  /** Asked for beforehand; null is infinity. */
  distanceM?: number | null;
  onClose: () => void;
  onKept: (kept: KitPhone) => void;
}

/** A focus ladder: pictures at stepped slider values, one patch, and where it is sharpest. */
export function LadderDialog({ phone, lens, clipOn = "", distanceM, onClose, onKept }: Props) {
  const ladder = useLadder();
  const { rungs, doing, found } = ladder;
  const [far, setFar] = useState(distanceM == null);
  const [distance, setDistance] = useState<number | null>(distanceM ?? null);
  const [refused, setRefused] = useState("");
  const usable = rungs.filter((rung) => !rung.refused);
  const ready = usable.length >= 3 && usable.every((rung) => rung.value !== null) && !doing;
  const keep = (value: number, plusMinus: number | null) => {
    const software = usable.find((rung) => rung.look?.software)?.look?.software ?? "";
    keepSliderPoint(phone.id, {
      ...{ lens: lens.id, clip_on: clipOn, software, plus_minus: plusMinus },
      value: precise(value, 4),
      distance_m: far ? null : distance,
      found: `ladder of ${usable.length} pictures`,
    }).then(onKept, (error: unknown) =>
      setRefused(error instanceof Error ? error.message : String(error)),
    );
  };
  const on = clipOn ? `${lens.name} with ${clipOn}` : lens.name;
  return (
    <Dialog wide open title={`Focus ladder: ${on}`} onOpenChange={(open) => !open && onClose()}>
      <DropZone onFiles={(files) => void ladder.add(files)} className="grid gap-3">
        {rungs.length === 0 ? (
          <HowTo onFiles={(files) => void ladder.add(files)} />
        ) : (
          <div className="grid gap-4 md:grid-cols-[1.1fr_1fr]">
            <LadderPicture rungs={usable} patch={ladder.patch} onPlace={ladder.place} />
            <RungList
              rungs={rungs}
              onValue={ladder.setValue}
              onDrop={ladder.drop}
              onSpread={ladder.spread}
              onFiles={(files) => void ladder.add(files)}
            />
          </div>
        )}
        {doing && (
          <p role="status" className="flex items-center gap-3">
            <progress className="flex-1 accent-(--accent)" value={doing.done} max={doing.of} />
            {doing.what} picture {doing.done + 1} of {doing.of}
            <Button onClick={ladder.cancel}>Stop</Button>
          </p>
        )}
        {[ladder.problem, refused].filter(Boolean).map((words) => (
          <p key={words} role="alert" className="rounded border-2 border-ink bg-raised p-2">
            {words}
          </p>
        ))}
        {found && <Found found={found} />}
        {rungs.length > 0 && (
          <div className="sticky -bottom-4 -mx-4 -mb-4 flex flex-wrap items-end gap-3 border-t border-line bg-panel px-4 py-3">
            <Segmented
              small
              label="Patch is at"
              value={far ? "far" : "near"}
              options={[
                { value: "far", text: "Infinity" },
                { value: "near", text: "A distance" },
              ]}
              onChange={(next) => setFar(next === "far")}
            />
            {!far && (
              <div className="w-36">
                <NumberField
                  label="Patch distance"
                  unit="m"
                  value={distance}
                  low={0.01}
                  high={10000}
                  placeholder="e.g. 0.25"
                  onCommit={setDistance}
                />
              </div>
            )}
            <span className="ml-auto flex gap-2">
              <Button
                look={found?.value != null ? "plain" : "main"}
                disabled={!ready}
                onClick={() => void ladder.measure()}
              >
                Find sharpest
              </Button>
              {found?.value != null && (
                <Button
                  look="main"
                  disabled={!far && distance === null}
                  onClick={() => found.value !== null && keep(found.value, found.plus_minus)}
                >
                  {phone.shipped ? "Save as copy" : `Save for ${phone.name}`}
                </Button>
              )}
            </span>
          </div>
        )}
      </DropZone>
    </Dialog>
  );
}

function HowTo({ onFiles }: { onFiles: (files: File[]) => void }) {
  return (
    <div className="grid gap-3">
      <ol className="list-decimal space-y-1 pl-5">
        <li>
          Put the phone on a tripod facing something with edges at a known distance. For infinity
          use a far light, a distant mast or stars.
        </li>
        <li>Keep the same exposure. Move the focus slider one step, shoot, and repeat.</li>
        <li>
          Take five to nine pictures with the sharpest in the middle, then small steps around it.
        </li>
      </ol>
      <p className="flex items-center gap-3">
        <PickButton look="main" text="Choose pictures" onFiles={onFiles} />
        <span className="text-soft">or drop them here. They are measured, not saved.</span>
      </p>
    </div>
  );
}

interface ListProps {
  rungs: readonly Rung[];
  onValue: (at: number, value: number | null) => void;
  onDrop: (at: number) => void;
  onSpread: (from: number, step: number) => void;
  onFiles: (files: File[]) => void;
}

function RungList({ rungs, onValue, onDrop, onSpread, onFiles }: ListProps) {
  const [from, setFrom] = useState<number | null>(null);
  const [step, setStep] = useState<number | null>(null);
  return (
    <div className="grid content-start gap-2">
      <ul className="grid max-h-64 gap-1 overflow-y-auto">
        {rungs.map((rung, at) => (
          <li key={`${rung.file.name}-${at}`} className="flex items-center gap-2">
            {rung.look && (
              <img src={rung.look.preview} alt="" className="h-11 w-14 rounded object-cover" />
            )}
            <span className="min-w-0 flex-1 leading-tight">
              <span className="block truncate text-[0.9rem]">{rung.file.name}</span>
              {rung.refused && <span className="text-[0.85rem]">{rung.refused}</span>}
            </span>
            {!rung.refused && (
              <span className="w-24">
                <ValueField
                  name={rung.file.name}
                  value={rung.value}
                  onCommit={(v) => onValue(at, v)}
                />
              </span>
            )}
            <Button look="quiet" aria-label={`Remove ${rung.file.name}`} onClick={() => onDrop(at)}>
              ×
            </Button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        <NumberField
          label="First slider value"
          value={from}
          placeholder="e.g. 0.40"
          onCommit={setFrom}
        />
        <NumberField label="Slider step" value={step} placeholder="e.g. 0.05" onCommit={setStep} />
        <Button
          disabled={from === null || !step}
          onClick={() => from !== null && step && onSpread(from, step)}
        >
          Fill in
        </Button>
      </div>
      <p>
        <PickButton look="quiet" text="Add pictures" onFiles={onFiles} />
      </p>
    </div>
  );
}

function ValueField({
  name,
  value,
  onCommit,
}: {
  name: string;
  value: number | null;
  onCommit: (value: number | null) => void;
}) {
  return (
    <input
      className="field"
      aria-label={`Slider value of ${name}`}
      inputMode="decimal"
      placeholder="value"
      value={value ?? ""}
      onChange={(event) => {
        const next = Number(event.target.value.replace(",", "."));
        onCommit(event.target.value.trim() === "" || Number.isNaN(next) ? null : next);
      }}
    />
  );
}

function Found({ found }: { found: LadderFound }) {
  return (
    <div
      role="status"
      className="grid gap-3 rounded border border-line bg-raised p-3 md:grid-cols-2"
    >
      <p className="self-center text-lg leading-snug">
        {found.value === null ? (
          found.words
        ) : (
          <>
            <b className="text-[1.85rem] leading-tight">{rounded(found.value, 3)}</b>
            <span className="ml-2 text-soft">± {precise(found.plus_minus ?? 0, 1)}</span>
            <span className="block">on the slider is sharpest.</span>
          </>
        )}
      </p>
      <LadderCurve found={found} />
    </div>
  );
}
