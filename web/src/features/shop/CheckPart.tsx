import { useState } from "react";

import { Button } from "../../ui/Button";
import { Segmented } from "../../ui/Segmented";
import { CheckTable } from "./CheckTable";
import { ChosenPicture } from "./ChosenPicture";
import { DriftPlot } from "./DriftPlot";
import type { PartProps } from "./part";
import { beginCheck, type Shop, shotsOf } from "./queries";
import { SmallPictures } from "./SmallPictures";
import { useLongWork } from "./useLongWork";
import { WorkBar } from "./WorkBar";

type Order = "table" | "pictures";
const ORDERS = [
  { value: "table", text: "Worst first" },
  { value: "pictures", text: "All pictures" },
] as const;

/** Every picture against the reference: what is off, what drifts, and what to do about it. */
export function CheckPart({ shop, ...props }: PartProps & { shop: Shop }) {
  const [order, setOrder] = useState<Order>("table");
  const [chosen, setChosen] = useState<number | null>(null);
  const work = useLongWork(props.again);
  const shots = shotsOf(shop);
  const place = new Map(shop.worst_first.map((take, at) => [take, at]));
  const worst = [...shots].sort(
    (a, b) => (place.get(a.picture.take_id) ?? 0) - (place.get(b.picture.take_id) ?? 0),
  );
  const shown =
    shots.find((shot) => shot.picture.take_id === chosen) ??
    worst.find((shot) => !shot.picture.is_reference) ??
    null;
  const { to_check } = shop.counts;
  if (shots.length === 0) return <p>Shoot the first things, then check them here.</p>;
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <section aria-label="Pictures" className="grid min-w-0 gap-3">
        <div className="flex flex-wrap items-center gap-3">
          {to_check > 0 && work.share === null && (
            <Button look="main" onClick={() => void work.begin(() => beginCheck(props.sheet))}>
              Check series
            </Button>
          )}
          {work.share === null ? (
            <b>{summary(shop)}</b>
          ) : (
            <WorkBar label="Checking" share={work.share} onStop={work.stop} />
          )}
          <span className="ml-auto w-64">
            <Segmented label="Order" value={order} options={ORDERS} onChange={setOrder} />
          </span>
        </div>
        {order === "table" ? (
          <CheckTable shop={shop} shots={worst} chosen={shown} onChoose={setChosen} />
        ) : (
          <SmallPictures shop={shop} shots={shots} chosen={shown} onChoose={setChosen} />
        )}
      </section>
      <div className="grid gap-5">
        {shown && <ChosenPicture key={shown.picture.take_id} shop={shop} shot={shown} {...props} />}
        {to_check === 0 && (
          <section
            aria-label="Drift"
            className="grid gap-4 rounded border border-line bg-panel p-4"
          >
            {shop.drift.map((drift) => (
              <DriftPlot
                key={drift.quantity}
                drift={drift}
                chosen={shown?.picture.take_id ?? null}
                onChoose={setChosen}
              />
            ))}
          </section>
        )}
      </div>
    </div>
  );
}

function summary({ counts }: Shop): string {
  const { keep, match, reshoot, look, to_check } = counts;
  if (to_check > 0) return to_check === 1 ? "1 picture to check" : `${to_check} pictures to check`;
  return [
    `${keep} good`,
    match > 0 && `${match} to match`,
    reshoot > 0 && `${reshoot} to reshoot`,
    look > 0 && `${look} to look at`,
  ]
    .filter(Boolean)
    .join(", ");
}
