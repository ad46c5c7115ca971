import { type KeyboardEvent, type PointerEvent, useState } from "react";
import { rounded } from "../../ui/numbers";

export type Place = [number, number];

const SAME = 0.02;
const STEPS: Record<string, Place> = {
  ArrowLeft: [-0.02, 0],
  ArrowRight: [0.02, 0],
  ArrowUp: [0, -0.02],
  ArrowDown: [0, 0.02],
};

interface Props {
  picture: string;
  line: Place[];
  onLine: (line: Place[]) => void;
}

/** The line over a frame: a click adds a place to it, one on a place takes that away. */
export function DrawnLine({ picture, line, onLine }: Props) {
  const [mark, setMark] = useState<Place>([0.5, 0.75]);
  const first = line[0];
  const last = line.at(-1);
  const through = first && last ? [[0, first[1]] as Place, ...line, [1, last[1]] as Place] : [];
  const put = (place: Place) => {
    const others = line.filter(
      (point) => Math.hypot(point[0] - place[0], point[1] - place[1]) > SAME,
    );
    const next = others.length < line.length ? others : [...line, place];
    onLine(next.sort((a, b) => a[0] - b[0]));
  };
  const click = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    if (box.height < 1) return;
    put([
      share((event.clientX - box.left) / box.width),
      share((event.clientY - box.top) / box.height),
    ]);
  };
  const key = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step) setMark(([x, y]) => [share(x + step[0]), share(y + step[1])]);
    if (event.key === "Enter" || event.key === " ") put(mark);
    if (step || event.key === "Enter" || event.key === " ") event.preventDefault();
  };
  return (
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <div
      role="application"
      tabIndex={0}
      aria-label="Horizon. Arrow keys move the marker, Enter adds a point."
      className="group surround relative rounded"
      onKeyDown={key}
    >
      <img src={picture} alt="Frame" className="block max-h-[66dvh] w-full" />
      <svg
        viewBox="0 0 1000 1000"
        preserveAspectRatio="none"
        className="absolute inset-0 h-full w-full cursor-crosshair"
        aria-hidden
        onPointerUp={click}
      >
        {["black", "white"].map((colour) => (
          <polyline
            key={colour}
            points={through.map(([x, y]) => `${1000 * x},${1000 * y}`).join(" ")}
            fill="none"
            stroke={colour}
            strokeWidth={colour === "black" ? 5 : 2.5}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      {line.map(([x, y]) => (
        <Dot key={`${x} ${y}`} at={[x, y]} />
      ))}
      <Dot at={mark} faint />
    </div>
  );
}

function Dot({ at, faint = false }: { at: Place; faint?: boolean }) {
  return (
    <span
      aria-hidden
      className={`pointer-events-none absolute h-3.5 w-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white ${faint ? "hidden group-focus-visible:block" : "bg-black"}`}
      style={{ left: `${100 * at[0]}%`, top: `${100 * at[1]}%` }}
    />
  );
}

const share = (value: number) => rounded(Math.max(0, Math.min(1, value)), 4);
