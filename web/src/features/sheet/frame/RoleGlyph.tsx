import type { Role } from "../../../api/client";

/** A spot's role by shape: ring, ring with a notch up, ring with a notch down, square. */
export function RoleGlyph({ role, size }: { role: Role; size: number }) {
  const s = size;
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
