import type { Limit, Plan } from "../../../api/client";
import type { Area } from "./mapModel";

/** Clear of the first label along the top. */
const CLOSED_TOP = 34;

/** Where nothing is open: which two collide, above the map's lines. */
export function Closed({ area, plan, limits }: { area: Area; plan: Plan; limits: Limit[] }) {
  const { conflict } = plan;
  if (!conflict) return null;
  const names = conflict.between.map((id) => limits.find((l) => l.id === id)?.name ?? id);
  const words = names.join(" against ");
  const width = Math.min((area.right - area.left) * 0.75, Math.max(210, words.length * 6.4 + 20));
  const top = area.top + CLOSED_TOP;
  return (
    <g>
      <rect x={area.left + 8} y={top} width={width} height={44} fill="var(--ink)" />
      <g fill="var(--raised)">
        <text x={area.left + 17} y={top + 18} fontSize={14} fontWeight={650}>
          No exposure meets every limit
        </text>
        <text x={area.left + 17} y={top + 35} fontSize={13}>
          {words}
        </text>
      </g>
    </g>
  );
}
