import type { SpotRole } from "../../../api/client";

/** A spot's role by shape: ring, triangle up, triangle down, square; a cross without one. */
export function RoleGlyph({ role, size }: { role: SpotRole; size: number }) {
  const s = size;
  if (role === "tone")
    return <path d={`M0 ${-s}V${s}M${-s} 0H${s}`} strokeWidth={1.8} fill="none" />;
  if (role === "neutral")
    return <rect x={-s} y={-s} width={2 * s} height={2 * s} strokeWidth={1.8} />;
  if (role === "keep-bright")
    return <path d={`M0 ${-s}L${s} ${s * 0.8}L${-s} ${s * 0.8}Z`} strokeWidth={1.8} />;
  if (role === "keep-dark")
    return (
      <path
        d={`M0 ${s}L${s} ${-s * 0.8}L${-s} ${-s * 0.8}Z`}
        strokeWidth={1.8}
        fill="currentColor"
      />
    );
  return (
    <>
      <circle r={s} strokeWidth={1.8} />
      <circle r={s * 0.3} fill="currentColor" stroke="none" />
    </>
  );
}
