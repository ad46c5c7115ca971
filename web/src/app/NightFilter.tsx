/** What the night theme puts pictures through: their luminance, in dim red alone. */
export function NightFilter() {
  return (
    <svg className="absolute h-0 w-0" aria-hidden="true">
      <filter id="long-wavelengths" colorInterpolationFilters="sRGB">
        <feColorMatrix values="0.12 0.36 0.04 0 0  0.012 0.036 0.004 0 0  0.006 0.018 0.002 0 0  0 0 0 1 0" />
      </filter>
    </svg>
  );
}
