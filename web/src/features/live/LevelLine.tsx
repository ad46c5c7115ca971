import { useEffect, useState } from "react";

import { sensing } from "../../phone/chosen";
import { fixed } from "../../ui/numbers";

/** Nearer to level than this the line says so. */
const LEVEL_DEG = 0.5;

/** A line that stays level while the phone leans, and by how much it leans. */
export function LevelLine() {
  const [rollDeg, setRoll] = useState<number | null>(null);
  const [trouble, setTrouble] = useState("");
  useEffect(() => sensing().follow((held) => setRoll(held.rollDeg), setTrouble), []);
  if (rollDeg === null)
    return trouble === "" ? null : (
      <p role="alert" className="absolute bottom-1 left-1 rounded-xs bg-black/65 px-1 text-white">
        {trouble}
      </p>
    );
  const isLevel = Math.abs(rollDeg) < LEVEL_DEG;
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center text-white">
      <span
        className={`absolute w-1/2 border-t-2 ${isLevel ? "border-solid" : "border-dashed"}`}
        style={{ transform: `rotate(${-rollDeg}deg)`, filter: "drop-shadow(0 0 2px black)" }}
      />
      <span className="absolute right-1 bottom-1 rounded-xs bg-black/65 px-1 tabular-nums">
        {isLevel
          ? "level"
          : `leans ${fixed(Math.abs(rollDeg), 1)}° ${rollDeg > 0 ? "right" : "left"}`}
      </span>
    </div>
  );
}
