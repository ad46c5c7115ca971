import type { ReactNode } from "react";

const LINE = { fill: "none", stroke: "var(--ink)", strokeWidth: 1.6 } as const;
const SOFT = { fill: "none", stroke: "var(--line-strong)", strokeWidth: 1.2 } as const;

/** What to set up, as a small picture: the phone on the right, what it looks at on the left. */
export function MeasureDrawing({ kind }: { kind: string }) {
  return (
    <svg viewBox="0 0 240 150" className="w-full rounded bg-raised" aria-hidden="true">
      <path d="M10 132H230" {...SOFT} />
      {DRAWINGS[kind] ?? null}
    </svg>
  );
}

/** The phone from its side, on its support or in a hand. */
function Phone({ held, away = 190 }: { held: "stand" | "hand" | "rail"; away?: number }) {
  return (
    <g>
      <rect x={away} y="52" width="7" height="40" rx="3" {...LINE} fill="var(--sunk)" />
      <path d={`M${away} 60h-4v6h4`} {...LINE} />
      {held === "stand" && <path d={`M${away + 3} 92v12l-14 28m14-28l14 28m-14-28v28`} {...LINE} />}
      {held === "hand" && <path d={`M${away + 7} 84q14 4 18 18l10 30`} {...LINE} strokeWidth={4} />}
      {held === "rail" && (
        <>
          <path d={`M${away - 14} 93h40M${away - 8} 93v39M${away + 20} 93v39`} {...LINE} />
          <path d={`M${away + 7} 84q12 2 16 8`} {...LINE} strokeWidth={4} />
        </>
      )}
      <path d={`M${away - 8} 63L70 30M${away - 8} 63L70 104`} {...SOFT} strokeDasharray="4 4" />
    </g>
  );
}

function Wall({ fill, children }: { fill?: string; children?: ReactNode }) {
  return (
    <g>
      <rect x="34" y="22" width="22" height="110" {...LINE} fill={fill ?? "var(--panel)"} />
      {children}
    </g>
  );
}

function Lamp({ at = 110 }: { at?: number }) {
  return (
    <g {...LINE}>
      <path d={`M${at} 14v8m-9 0h18l-5 12h-8z`} />
      <path d={`M${at - 12} 40l-10 10M${at} 40v12M${at + 12} 40l10 10`} {...SOFT} />
    </g>
  );
}

const Bricks = () => (
  <path
    d="M34 40h22M34 58h22M34 76h22M34 94h22M34 112h22M45 22v18M39 40v18M50 40v18M45 58v18M39 76v18M50 76v18M45 94v18M39 112v20M50 112v20"
    {...SOFT}
  />
);

const DRAWINGS: Record<string, ReactNode> = {
  pace: (
    <>
      <Phone held="stand" />
      {[0, 1, 2, 3, 4].map((k) => (
        <rect key={k} x={30 + k * 24} y={40 + k * 4} width="18" height="24" {...LINE} />
      ))}
    </>
  ),
  weight: (
    <>
      {[0, 1, 2, 3].map((k) => (
        <rect
          key={k}
          x={44 + k * 14}
          y={98 - k * 18}
          width="76"
          height="34"
          {...LINE}
          fill="var(--panel)"
        />
      ))}
    </>
  ),
  readout: (
    <>
      <Wall>
        {[30, 58, 86, 114].map((y) => (
          <rect key={y} x="35" y={y} width="20" height="12" fill="var(--line-strong)" />
        ))}
      </Wall>
      <Lamp />
      <Phone held="stand" />
    </>
  ),
  meter: (
    <>
      <rect x="38" y="50" width="16" height="48" {...LINE} fill="var(--line-strong)" />
      <path d="M46 98v34" {...LINE} />
      <Lamp at={100} />
      <Phone held="stand" />
    </>
  ),
  headroom: (
    <>
      <Wall fill="var(--raised)" />
      {[0, 1, 2, 3, 4, 5].map((k) => (
        <rect
          key={k}
          x={72 + k * 15}
          y="112"
          width="12"
          height="14"
          stroke="var(--ink)"
          fill={`rgb(${40 + k * 42} ${40 + k * 42} ${40 + k * 42})`}
        />
      ))}
      <Phone held="stand" />
    </>
  ),
  dial: (
    <>
      <rect x="38" y="50" width="16" height="48" {...LINE} fill="var(--line-strong)" />
      <path d="M46 98v34" {...LINE} />
      <Lamp at={80} />
      <text x="98" y="26" fontSize="14" fill="var(--ink)">
        K?
      </text>
      <Phone held="stand" />
    </>
  ),
  noise: (
    <>
      <Wall fill="var(--sunk)" />
      <Phone held="stand" />
      <circle cx="120" cy="112" r="13" {...LINE} fill="var(--ink)" />
      <circle cx="152" cy="112" r="13" {...LINE} fill="var(--line-strong)" />
    </>
  ),
  hand: (
    <>
      <Wall>
        <Bricks />
      </Wall>
      <Phone held="hand" />
    </>
  ),
  braced: (
    <>
      <Wall>
        <Bricks />
      </Wall>
      <Phone held="rail" />
    </>
  ),
  tripod: (
    <>
      <Wall>
        <Bricks />
      </Wall>
      <Phone held="stand" />
    </>
  ),
  computed: (
    <>
      <path d="M40 74h14m8 0h14m8 0h14m8 0h14" stroke="var(--accent)" strokeWidth="6" />
      <path d="M40 92h76m-8 -5l8 5-8 5" {...SOFT} />
      <Phone held="stand" />
    </>
  ),
  battery: (
    <>
      <rect x="70" y="50" width="90" height="46" rx="5" {...LINE} />
      <path d="M160 64h7v18h-7" {...LINE} />
      <rect x="76" y="56" width="44" height="34" fill="var(--line-strong)" />
    </>
  ),
};
