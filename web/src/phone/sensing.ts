/** How the phone is held, where it points and where it is: one place to ask, whoever answers. */

export interface Held {
  /** Degrees by which the picture leans clockwise; 0 = level. */
  rollDeg: number;
  /** Degrees by which the camera looks up; negative = down. */
  tiltDeg: number;
  /** Where the camera looks, in degrees from north by east; null where no compass tells. */
  headingDeg: number | null;
}

export interface Place {
  latitudeDeg: number;
  longitudeDeg: number;
  plusMinusM: number;
}

export interface Sensing {
  /** Shown beside readings that are not the phone's own; empty where they are. */
  note: string;
  /** Follow how the phone is held until the function it gives is called; a sentence if it fails. */
  follow: (onHeld: (held: Held) => void, onTrouble: (words: string) => void) => () => void;
  /** Where the phone is, once; rejects with a sentence. */
  place: () => Promise<Place>;
}

const RADIANS = Math.PI / 180;

/**
 * How the camera is held, from the angles browsers tell (W3C Device Orientation Event: turns about
 * z, then x, then y; x to the right of the screen, y up, z towards the face) and the turn of the
 * screen. The camera looks along −z.
 */
export function heldOf(
  alphaDeg: number | null,
  betaDeg: number,
  gammaDeg: number,
  screenDeg: number,
): Held {
  const [a, b, c] = [(alphaDeg ?? 0) * RADIANS, betaDeg * RADIANS, gammaDeg * RADIANS];
  const up = [-Math.cos(b) * Math.sin(c), Math.sin(b), Math.cos(b) * Math.cos(c)] as const;
  const lean = Math.atan2(up[0], up[1]) / RADIANS;
  const east = Math.cos(a) * Math.sin(c) + Math.sin(a) * Math.sin(b) * Math.cos(c);
  const north = Math.sin(a) * Math.sin(c) - Math.cos(a) * Math.sin(b) * Math.cos(c);
  const heading = Math.atan2(-east, -north) / RADIANS;
  return {
    rollDeg: around(screenDeg - lean, 180),
    tiltDeg: -Math.asin(up[2]) / RADIANS,
    headingDeg: alphaDeg === null ? null : around(heading - 180, 180) + 180,
  };
}

/** An angle brought to within half a turn of 0. */
function around(degrees: number, half: number): number {
  return ((((degrees + half) % 360) + 360) % 360) - half;
}
