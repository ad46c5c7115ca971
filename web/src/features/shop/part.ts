import type { Shop } from "./queries";

/** What every part of the page gets. */
export interface PartProps {
  sheet: number;
  run: (change: () => Promise<Shop>) => Promise<boolean>;
  again: () => Promise<unknown>;
}
