import type { SheetBody } from "../../../api/client";
import { Preview } from "../../../ui/Preview";
import { RoleGlyph } from "../frame/RoleGlyph";

const GLYPH_PX = 26;

/** The sheet's picture with its spots: what to frame, and where to tap. */
export function MarkedPicture({ body }: { body: SheetBody }) {
  if (!body.picture) return null;
  const named = body.spots.filter((spot) => spot.role !== "tone");
  return (
    <figure className="surround relative mx-auto w-fit overflow-hidden rounded">
      <Preview picture={body.picture} alt={`Picture of ${body.title}`} className="max-h-[38dvh]" />
      {named.map((spot) => (
        <span
          key={spot.id}
          className="absolute -translate-x-1/2 -translate-y-1/2 rounded bg-black/60 p-0.5 text-[var(--mark)]"
          style={{ left: `${100 * spot.x}%`, top: `${100 * spot.y}%` }}
          title={spot.name}
        >
          <svg
            viewBox="-12 -12 24 24"
            width={GLYPH_PX}
            height={GLYPH_PX}
            fill="none"
            stroke="currentColor"
            role="img"
            aria-label={spot.name || spot.role}
          >
            <RoleGlyph role={spot.role} size={10} />
          </svg>
        </span>
      ))}
    </figure>
  );
}
