import type { Sensing } from "./sensing";

const EVERY_MS = 60;
const SECONDS_A_SWAY = 2.6;

/** A hand that sways a little, looking south-west over the creek: for trying out without a phone. */
export const simulated: Sensing = {
  note: "Made-up readings, not from this device.",
  follow: (onHeld) => {
    const timer = window.setInterval(() => {
      const turn = (2 * Math.PI * performance.now()) / 1000 / SECONDS_A_SWAY;
      onHeld({
        rollDeg: 1.6 + 0.7 * Math.sin(turn),
        tiltDeg: -4 + 0.4 * Math.sin(1.7 * turn),
        headingDeg: 224 + 2 * Math.sin(0.6 * turn),
      });
    }, EVERY_MS);
    return () => window.clearInterval(timer);
  },
  place: () => Promise.resolve({ latitudeDeg: 51.7, longitudeDeg: 1.1, plusMinusM: 8 }),
};
