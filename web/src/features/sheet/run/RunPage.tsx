import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import type { RunStep, SheetBody, SlipLine } from "../../../api/client";
import { DeviceControlsLater } from "../../../shell/DeviceControlsLater";
import { Button } from "../../../ui/Button";
import { sheetQuery } from "../queries";
import { ShotClock } from "./ShotClock";
import { LargeNumbers } from "./LargeNumbers";
import { MarkedPicture } from "./MarkedPicture";
import { canSpeak, isMuted, isSpoken, rememberSpoken, setMuted } from "./sounds";
import { useLockScreen } from "./useLockScreen";
import { useTicks } from "./useTicks";
import { useWakeLock } from "./useWakeLock";
import { Explained } from "../../help/Explained";

const PARTS: Record<RunStep["part"], string> = {
  care: "Take care",
  set_up: "Set up the phone",
  steady: "Lens and support",
  dial: "Dial",
  compose: "Compose",
  expose: "ISO and shutter",
  shoot: "Shoot",
  look: "Look at once",
  put_back: "Afterwards",
};

/** The slip as a run at the spot: one step a line, large, ticked off as it is done. */
export function RunPage({ id }: { id: number }) {
  const { data: sheet, error } = useQuery(sheetQuery(id));
  if (error) return <p className="p-6">{error.message}</p>;
  if (!sheet) return <p className="p-6">Opening the checklist…</p>;
  return (
    <Run
      key={sheet.uid}
      id={id}
      uid={sheet.uid}
      body={sheet.body}
      lines={sheet.answer.lines}
      steps={sheet.answer.run}
    />
  );
}

interface Props {
  id: number;
  uid: string;
  body: SheetBody;
  lines: SlipLine[];
  steps: RunStep[];
}

function Run({ id, uid, body, lines, steps }: Props) {
  const { done, toggle, tickAll, clear } = useTicks(uid);
  const [mute, setMute] = useState(isMuted);
  const [spoken, setSpoken] = useState(isSpoken);
  const [isLarge, setLarge] = useState(false);
  const onLock = useLockScreen(body.title, lines);
  const stays = useWakeLock();
  const next = steps.find((step) => step.part !== "care" && !done.has(step.id));
  const parts = parted(steps);
  const care = parts.filter(([part]) => part === "care");
  const rest = parts.filter(([part]) => part !== "care");
  const section = ([part, of]: [RunStep["part"], RunStep[]]) => (
    <section key={part} aria-label={PARTS[part]}>
      <div className="mb-1 flex min-h-11 flex-wrap items-center justify-between gap-x-3">
        <h2 className="font-semibold text-soft">{PARTS[part]}</h2>
        {part === "set_up" && of.some((step) => !done.has(step.id)) && (
          <Button onClick={() => tickAll(of.map((step) => step.id))}>As last time</Button>
        )}
      </div>
      <ol className="grid grid-cols-1 gap-2">
        {of.map((step) => (
          <Step
            key={step.id}
            step={step}
            done={done.has(step.id)}
            isNext={step === next}
            clock={`${uid}-${step.id}`}
            onToggle={() => toggle(step.id)}
          />
        ))}
      </ol>
    </section>
  );
  return (
    <div className="mx-auto min-h-dvh max-w-[44rem] pb-10">
      <header className="sticky top-0 z-10 flex flex-wrap items-center gap-2 border-b border-line bg-panel px-3 py-2">
        <Link href={`/sheets/${id}`} className="flex min-h-11 items-center underline">
          Back to the sheet
        </Link>
        <h1 className="min-w-0 flex-1 leading-snug font-semibold max-md:order-last max-md:basis-full">
          {body.title}
        </h1>
        <span className="flex-1 md:hidden" />
        <DeviceControlsLater />
      </header>
      {steps.length === 0 ? (
        <p className="p-6">This sheet has no slip yet, so it has no checklist.</p>
      ) : (
        <main className="grid grid-cols-1 gap-4 p-3">
          {!stays && (
            <p className="text-[0.9rem] text-soft">
              The screen may turn off: this browser cannot keep it on here.
            </p>
          )}
          {care.map(section)}
          <MarkedPicture body={body} />
          <div className="flex flex-wrap gap-2">
            <Button className="min-h-12 flex-1" onClick={() => setLarge(true)}>
              Large numbers
            </Button>
            <Button
              className="min-h-12"
              aria-pressed={mute}
              onClick={() => {
                setMuted(!mute);
                setMute(!mute);
              }}
            >
              {mute ? "Sound is off" : "Sound is on"}
            </Button>
            {canSpeak && (
              <Button
                className="min-h-12"
                aria-pressed={spoken}
                disabled={mute}
                onClick={() => {
                  rememberSpoken(!spoken);
                  setSpoken(!spoken);
                }}
              >
                {spoken ? "Counts aloud" : "Count aloud"}
              </Button>
            )}
          </div>
          {rest.map(section)}
          <Button className="min-h-12" onClick={clear}>
            Start over
          </Button>
        </main>
      )}
      {isLarge && <LargeNumbers lines={lines} onLock={onLock} onClose={() => setLarge(false)} />}
    </div>
  );
}

interface StepProps {
  step: RunStep;
  done: boolean;
  isNext: boolean;
  /** Names the step's clock, which goes on over a reload. */
  clock: string;
  onToggle: () => void;
}

function Step({ step, done, isNext, clock, onToggle }: StepProps) {
  if (step.part === "care")
    return (
      <li className="rounded border-2 border-ink bg-raised p-3">
        <p className="text-lg font-semibold">{step.text}</p>
        <p className="text-soft">
          <Explained>{step.detail}</Explained>
        </p>
      </li>
    );
  return (
    <li
      className={`rounded border bg-raised ${isNext ? "border-3 border-accent" : "border-strong"} ${done ? "opacity-60" : ""}`}
    >
      <label className="flex min-h-16 cursor-pointer items-center gap-3 p-3">
        <span className="relative grid size-9 shrink-0 place-items-center">
          <input
            type="checkbox"
            className="absolute inset-0 m-0 size-9 appearance-none rounded border-2 border-ink bg-panel checked:border-accent checked:bg-accent"
            checked={done}
            onChange={onToggle}
          />
          {done && (
            <span aria-hidden="true" className="relative text-2xl leading-none text-on-accent">
              ✓
            </span>
          )}
        </span>
        <span className="grid min-w-0 flex-1 grid-cols-1">
          <span className={`text-lg leading-snug ${done ? "line-through" : ""}`}>{step.text}</span>
          {step.value && <b className="text-3xl leading-tight break-words">{step.value}</b>}
          {step.detail && <span className="text-[0.95rem] text-soft">{step.detail}</span>}
        </span>
      </label>
      {step.part === "shoot" && (
        <div className="px-3 pb-3">
          <ShotClock step={step} name={clock} />
        </div>
      )}
    </li>
  );
}

function parted(steps: RunStep[]): [RunStep["part"], RunStep[]][] {
  const found = new Map<RunStep["part"], RunStep[]>();
  for (const step of steps) found.set(step.part, [...(found.get(step.part) ?? []), step]);
  return [...found];
}
