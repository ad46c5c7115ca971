import { ofDevice } from "./ofDevice";
import type { Sensing } from "./sensing";
import { simulated } from "./simulated";

const KEY = "oxlen-sensing";

/** Whether made-up readings replace the sensors on this device. */
export function isSimulated(): boolean {
  return localStorage.getItem(KEY) === "simulated";
}

/** Choose whether they do. */
export function setSimulated(on: boolean): void {
  if (on) localStorage.setItem(KEY, "simulated");
  else localStorage.removeItem(KEY);
}

/** Who answers on this device. */
export function sensing(): Sensing {
  return isSimulated() ? simulated : ofDevice;
}
