/** How far the phone's steps miss: a mark on a ruler of one stop either way, half a step shaded. */
export function ResidualMark({ stops, half }: { stops: number; half: number }) {
  const reach = Math.max(1, Math.ceil(Math.abs(stops)));
  const x = (value: number) => 120 + (value / reach) * 108;
  return (
    <svg viewBox="0 0 240 31" className="my-0.5 block w-full" aria-hidden="true">
      <rect x={x(-half)} y={5} width={x(half) - x(-half)} height={10} fill="var(--accent-soft)" />
      <line x1={x(-reach)} x2={x(reach)} y1={10} y2={10} stroke="var(--line-strong)" />
      {[-reach, 0, reach].map((at) => (
        <line key={at} x1={x(at)} x2={x(at)} y1={5} y2={15} stroke="var(--ink)" />
      ))}
      <path d={`M${x(stops)} 3l5 7l-5 7l-5 -7Z`} fill="var(--accent)" />
      <g fontSize={11} fill="var(--ink-soft)">
        <text x={x(-reach)} y={26}>
          darker
        </text>
        <text x={x(reach)} y={26} textAnchor="end">
          brighter
        </text>
      </g>
    </svg>
  );
}
