/** What may be marked on the live picture. */
export interface Marks {
  lost: boolean;
  detail: boolean;
  grid: boolean;
  level: boolean;
}

export const NO_MARKS: Marks = { lost: true, detail: false, grid: false, level: false };

/** Contrast between neighbours, in codes, over which detail is marked as sharp. */
const SHARP_CODES = 26;

/** The marks of a small frame, as pixels to lay over it: stripes for lost, dots for sharp. */
export function markedPixels(
  frame: ImageData,
  codes: { clipped: number; blocked: number },
  marks: Marks,
): ImageData {
  const { width, height, data } = frame;
  const out = new ImageData(width, height);
  const luma = (at: number) =>
    ((data[at] ?? 0) + 2 * (data[at + 1] ?? 0) + (data[at + 2] ?? 0)) / 4;
  const paint = (at: number, [r, g, b, a]: readonly [number, number, number, number]) => {
    out.data.set([r, g, b, a], at);
  };
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const at = 4 * (y * width + x);
      const most = Math.max(data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0);
      if (marks.lost && most >= codes.clipped && (x + y) % 6 < 3) paint(at, [0, 0, 0, 230]);
      else if (marks.lost && most <= codes.blocked && (x - y + height) % 6 < 3)
        paint(at, [255, 255, 255, 200]);
      else if (marks.detail && x > 0 && y > 0 && x % 2 === 0 && y % 2 === 0) {
        const steep = Math.abs(luma(at) - luma(at - 4)) + Math.abs(luma(at) - luma(at - 4 * width));
        if (steep > SHARP_CODES) paint(at, [0, 200, 220, 255]);
      }
    }
  return out;
}
