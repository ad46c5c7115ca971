import type { FrameFigures } from "../../../api/client";
import { rounded } from "../../../ui/numbers";

const [WIDTH, HEIGHT, FOOT] = [380, 92, 17];

/** Tones of two frames in stops from mid: one as background, the other as a line over it. */
export function StopsHistogram({
  filled,
  line,
}: {
  filled: FrameFigures;
  line: FrameFigures | null;
}) {
  const edges = filled.edges_stops;
  const [low, high] = [edges[0] ?? -8, edges[edges.length - 1] ?? 3];
  const x = (stops: number) => ((stops - low) / (high - low)) * WIDTH;
  const top = Math.max(...filled.shares, ...(line?.shares ?? []), 0.001);
  const y = (share: number) => HEIGHT - Math.sqrt(share / top) * (HEIGHT - 2);
  const steps = (figures: FrameFigures) =>
    figures.shares
      .map((share, index) => {
        const [from, to] = [figures.edges_stops[index] ?? 0, figures.edges_stops[index + 1] ?? 0];
        return `L${rounded(x(from), 1)} ${rounded(y(share), 1)}L${rounded(x(to), 1)} ${rounded(y(share), 1)}`;
      })
      .join("");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT + FOOT}`}
      className="block w-full rounded-xs bg-raised"
      role="img"
      aria-label="Tones of the predicted frame in stops from mid; the other's as a line"
    >
      <path d={`M0 ${HEIGHT}${steps(filled)}L${WIDTH} ${HEIGHT}Z`} fill="var(--line-strong)" />
      {line && (
        <path
          d={`M0 ${HEIGHT}${steps(line)}L${WIDTH} ${HEIGHT}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.3}
        />
      )}
      <line x1={x(0)} x2={x(0)} y1={0} y2={HEIGHT} stroke="var(--accent)" strokeWidth={1.5} />
      {[-6, -4, -2, 0, 2].map((stop) => (
        <text
          key={stop}
          x={x(stop)}
          y={HEIGHT + 13}
          fontSize={12}
          textAnchor="middle"
          fill="var(--ink)"
        >
          {stop === 0 ? "mid" : stop > 0 ? `+${stop}` : `−${-stop}`}
        </text>
      ))}
    </svg>
  );
}
