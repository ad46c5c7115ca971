import { Button } from "../../ui/Button";
import type { PartProps } from "./part";
import { aimAt, type Shop } from "./queries";

/** Past the next thing, or back to the last one. */
export function Steps({ shop, sheet, run }: { shop: Shop; sheet: number; run: PartProps["run"] }) {
  const { skip_to, last } = shop;
  return (
    <>
      {skip_to && <Button onClick={() => void run(() => aimAt(sheet, skip_to))}>Skip</Button>}
      {last && <Button onClick={() => void run(() => aimAt(sheet, last))}>Repeat last</Button>}
    </>
  );
}
