/** How numbers are written: true minus, sign where direction matters, unit always. */

export function signed(value: number, digits = 1): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return (value > 0 ? "+" : "−") + text;
}

export function ev(value: number): string {
  const text = Math.abs(value).toFixed(1);
  return `EV ${value < 0 && Number(text) !== 0 ? "−" : ""}${text}`;
}

/** Local time as 07:45; by hand, since the browser's own formatter takes tens of ms to wake. */
export function clockTime(iso: string): string {
  const time = new Date(iso);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${two(time.getHours())}:${two(time.getMinutes())}`;
}

export function percent(share: number): string {
  if (share > 0 && share < 0.001) return "under 0.1 %";
  return `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;
}
