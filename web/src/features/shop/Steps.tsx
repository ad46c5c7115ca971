import { Button } from "../../ui/Button";
import type { PartProps } from "./part";
import { aimAt, type Shop, shotsOf } from "./queries";

/** Past the next thing, or back to the last one. */
export function Steps({ shop, sheet, run }: { shop: Shop; sheet: number; run: PartProps["run"] }) {
  const shots = shotsOf(shop);
  const { next } = shop;
  const last = shots.reduce<(typeof shots)[number] | null>(
    (latest, shot) =>
      latest === null || shot.picture.take_id > latest.picture.take_id ? shot : latest,
    null,
  );
  const open = shop.things.filter((thing) => !thing.skipped);
  const place = open.findIndex((thing) => thing.id === next?.thing_id);
  const following = open[(place + 1) % Math.max(1, open.length)];
  const view = shop.options.views[0] ?? "front";
  return (
    <>
      {following && open.length > 1 && (
        <Button onClick={() => void run(() => aimAt(sheet, { thing_id: following.id, view }))}>
          Skip
        </Button>
      )}
      {last && (
        <Button
          onClick={() =>
            void run(() => aimAt(sheet, { thing_id: last.thing.id, view: last.picture.view }))
          }
        >
          Repeat last
        </Button>
      )}
    </>
  );
}
