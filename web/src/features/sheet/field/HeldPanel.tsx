import { useEffect, useState } from "react";

import { isSimulated, sensing, setSimulated } from "../../../phone/chosen";
import type { Held } from "../../../phone/sensing";
import { Button } from "../../../ui/Button";
import { fixed, signed } from "../../../ui/numbers";
import { LevelDrawing } from "./LevelDrawing";
import { PlaceHere } from "./PlaceHere";

const WINDS = [
  "north",
  "north-east",
  "east",
  "south-east",
  "south",
  "south-west",
  "west",
  "north-west",
];
const LEVEL_DEG = 0.5;

/** Level, direction and place, by the phone's sensors; nothing is asked of them until it is opened. */
export function HeldPanel({ outingId }: { outingId: number }) {
  const [open, setOpen] = useState(false);
  const [simulate, setSimulate] = useState(isSimulated);
  return (
    <details
      className="border-t border-line"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        Level, direction, place
      </summary>
      {open && (
        <div className="grid gap-3 pb-2">
          <LevelReading key={String(simulate)} />
          <PlaceHere outingId={outingId} />
          <label className="flex min-h-11 items-center gap-2 text-[0.92rem]">
            <input
              type="checkbox"
              className="h-5 w-5"
              checked={simulate}
              onChange={(event) => {
                setSimulated(event.target.checked);
                setSimulate(event.target.checked);
              }}
            />
            Try made-up readings
          </label>
        </div>
      )}
    </details>
  );
}

function LevelReading() {
  const [held, setHeld] = useState<Held | null>(null);
  const [trouble, setTrouble] = useState("");
  const [on, setOn] = useState(true);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    if (!on) return undefined;
    return sensing().follow((now) => {
      setTrouble("");
      setHeld(now);
    }, setTrouble);
  }, [on, attempt]);
  const again = () => {
    setTrouble("");
    setAttempt(attempt + 1);
  };
  if (trouble)
    return (
      <p role="alert">
        {trouble} <Button onClick={again}>Try again</Button>
      </p>
    );
  if (!held) return <p>Waiting for the sensors…</p>;
  return (
    <div className="grid gap-2">
      <LevelDrawing held={held} />
      <dl className="grid grid-cols-3 gap-2 text-center">
        <Figure name="Leans" value={leaning(held.rollDeg)} />
        <Figure name="Camera looks" value={looking(held.tiltDeg)} />
        <Figure name="Towards" value={facing(held.headingDeg)} />
      </dl>
      {sensing().note && <p className="text-[0.9rem] text-soft">{sensing().note}</p>}
      <Button onClick={() => setOn(!on)}>{on ? "Freeze" : "Unfreeze"}</Button>
    </div>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="text-[0.85rem] text-soft">{name}</dt>
      <dd className="font-semibold">{value}</dd>
    </div>
  );
}

function leaning(rollDeg: number): string {
  if (Math.abs(rollDeg) < LEVEL_DEG) return "level";
  return `${fixed(Math.abs(rollDeg), 1)}° ${rollDeg > 0 ? "right" : "left"}`;
}

function looking(tiltDeg: number): string {
  if (Math.abs(tiltDeg) < LEVEL_DEG) return "straight ahead";
  return `${signed(tiltDeg)}° ${tiltDeg > 0 ? "up" : "down"}`.replace(/^[+−-]/, "");
}

function facing(headingDeg: number | null): string {
  if (headingDeg === null) return "no compass";
  const wind = WINDS[Math.round(headingDeg / 45) % WINDS.length] ?? "";
  return `${Math.round(headingDeg)}°, ${wind}`;
}
