import type { SpotBody } from "../../../api/client";

export type LabelSide = "right" | "left" | "above" | "below";

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const CHARACTER_PX = 7.2;
const LABEL_PX = { padding: 12, height: 22 };
const GLYPH_PX = 16;
/** Characters of a reading's value and the space before it. */
const VALUE_LENGTH = 5;

/** Where each spot's label is, so that it covers neither another label nor another spot. */
export function labelSides(
  spots: SpotBody[],
  size: { width: number; height: number },
): Record<string, LabelSide> {
  const glyphs = spots.map((spot) => boxAround(spot, size, GLYPH_PX, GLYPH_PX));
  const placed: Box[] = [];
  const sides: Record<string, LabelSide> = {};
  spots.forEach((spot, index) => {
    const taken = [...placed, ...glyphs.filter((_, at) => at !== index)];
    const order: LabelSide[] =
      spot.x < 0.6 ? ["right", "left", "above", "below"] : ["left", "right", "above", "below"];
    const free = order.find((side) => {
      const box = labelBox(spot, side, size);
      const inside =
        box.left >= 0 && box.right <= size.width && box.top >= 0 && box.bottom <= size.height;
      return inside && taken.every((other) => !meet(box, other));
    });
    const side = free ?? order[0] ?? "right";
    sides[spot.id] = side;
    placed.push(labelBox(spot, side, size));
  });
  return sides;
}

function labelBox(spot: SpotBody, side: LabelSide, size: { width: number; height: number }): Box {
  const length = (spot.name || spot.role).length + VALUE_LENGTH;
  const half = (length * CHARACTER_PX + LABEL_PX.padding) / 2;
  const beside = GLYPH_PX + half;
  const apart = GLYPH_PX + LABEL_PX.height / 2;
  const shift = { right: [beside, 0], left: [-beside, 0], above: [0, -apart], below: [0, apart] }[
    side
  ] as [number, number];
  const at = { x: spot.x + shift[0] / size.width, y: spot.y + shift[1] / size.height };
  return boxAround(at, size, half, LABEL_PX.height / 2);
}

function boxAround(
  at: { x: number; y: number },
  size: { width: number; height: number },
  halfWidth: number,
  halfHeight: number,
): Box {
  const [x, y] = [at.x * size.width, at.y * size.height];
  return {
    left: x - halfWidth,
    right: x + halfWidth,
    top: y - halfHeight,
    bottom: y + halfHeight,
  };
}

function meet(a: Box, b: Box): boolean {
  return a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;
}
