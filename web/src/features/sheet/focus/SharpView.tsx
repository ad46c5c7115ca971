import { useQuery } from "@tanstack/react-query";

import type { SharpnessMeasured, SheetView } from "../../../api/client";
import { Preview } from "../../../ui/Preview";
import { sharpnessQuery } from "../queries";
import type { Size } from "../useSize";
import { rounded } from "../../../ui/numbers";

const MOST_COLUMNS = 44;

interface Props {
  sheet: SheetView;
  size: Size;
  room: Size;
  selected: string | null;
}

/** Where the picture is sharp: stitches laid over it, crossed where it is sharpest. */
export function SharpView({ sheet, size, room, selected }: Props) {
  const { body } = sheet;
  const spot =
    body.spots.find((spot) => spot.id === selected) ??
    body.spots.find((spot) => spot.role === "subject" || spot.role === "neutral");
  const at = spot ?? { x: 0.5, y: 0.5, r: 0.05 };
  const place = new URLSearchParams({
    x: String(rounded(at.x, 4)),
    y: String(rounded(at.y, 4)),
    r: String(rounded(Math.max(at.r, 0.03), 4)),
  });
  const { data, error } = useQuery(sharpnessQuery(sheet.id, body.picture ?? "", place.toString()));
  const fit = Math.min(room.width / size.width, (room.height - 44) / size.height);
  const drawn = { width: size.width * fit, height: size.height * fit };
  const named = spot?.name ? data?.words.replace(/the spot/i, `“${spot.name}”`) : data?.words;
  return (
    <div className="grid justify-items-center gap-1.5">
      <div className="relative" style={drawn}>
        <Preview
          picture={body.picture ?? ""}
          alt={`Where ${body.title} is sharp`}
          className="absolute inset-0 h-full w-full"
        />
        {data && <Stitches found={data} spot={at} />}
      </div>
      <p role="status" className="min-h-9 px-2 text-center leading-snug">
        {error ? error.message : (named ?? "Computing sharpness…")}
      </p>
    </div>
  );
}

function Stitches({
  found,
  spot,
}: {
  found: SharpnessMeasured;
  spot: { x: number; y: number; r: number };
}) {
  const { rows, columns, values } = found;
  const every = Math.ceil(columns / MOST_COLUMNS);
  const top = Math.max(...values.map((value) => value ?? 0));
  const marks: string[] = [];
  for (let row = Math.floor(every / 2); row < rows; row += every)
    for (let column = Math.floor(every / 2); column < columns; column += every) {
      const share = (values[row * columns + column] ?? 0) / (top || 1);
      if (share < 0.35) continue;
      const [x, y, half] = [column + 0.5, row + 0.5, 0.42 * every * share];
      marks.push(`M${x - half} ${y + half}L${x + half} ${y - half}`);
      if (share > 0.75) marks.push(`M${x - half} ${y - half}L${x + half} ${y + half}`);
    }
  const path = marks.join("");
  return (
    <svg
      viewBox={`0 0 ${columns} ${rows}`}
      preserveAspectRatio="none"
      className="absolute top-0 left-0"
      style={{ width: `${100 * found.covers[0]}%`, height: `${100 * found.covers[1]}%` }}
      aria-hidden="true"
    >
      <path
        d={path}
        stroke="#000"
        strokeOpacity={0.6}
        strokeWidth={3.2}
        vectorEffect="non-scaling-stroke"
      />
      <path d={path} stroke="var(--mark)" strokeWidth={1.4} vectorEffect="non-scaling-stroke" />
      <ellipse
        cx={(spot.x * columns) / found.covers[0]}
        cy={(spot.y * rows) / found.covers[1]}
        rx={Math.max(spot.r, 0.03) * rows}
        ry={Math.max(spot.r, 0.03) * rows}
        fill="none"
        stroke="var(--mark)"
        strokeWidth={2}
        strokeDasharray="5 4"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
