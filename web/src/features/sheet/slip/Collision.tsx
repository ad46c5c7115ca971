import type { Answer, Trade } from "../../../api/client";
import { Explained } from "../../help/Explained";
import type { Edit } from "../useSheetEditor";

interface Props {
  answer: Answer;
  edit: Edit;
}

/** What collides, in one line above the nearest settings. */
export function ConflictLine({ answer }: Pick<Props, "answer">) {
  const conflict = answer.plan?.conflict;
  if (!conflict) return null;
  return (
    <section aria-label="Conflict" className="mb-2 bg-ink px-3 py-2 text-raised">
      <p className="leading-snug font-semibold">
        <Explained>{conflict.sentence}</Explained>
      </p>
      {conflict.trades.length === 0 && (
        <p className="mt-1 text-[0.9rem] leading-snug">
          <Explained>{conflict.needs}</Explained>
        </p>
      )}
    </section>
  );
}

/** What to change so that nothing collides, beneath the nearest settings. */
export function WaysOut({ answer, edit }: Props) {
  const trades = answer.plan?.conflict?.trades ?? [];
  if (trades.length === 0) return null;
  return (
    <section aria-label="Ways out" className="my-2 border-2 border-ink bg-raised">
      <h3 className="px-3 pt-2 font-semibold">Ways out</h3>
      <ul className="divide-y divide-line">
        {trades.map((trade) => (
          <li key={trade.id}>
            <WayOut trade={trade} {...{ answer, edit }} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function WayOut({ trade, answer, edit }: Props & { trade: Trade }) {
  const way = answer.trades[trade.id];
  const words = (
    <>
      <span className="font-semibold">{trade.text}</span>
      <span className="block text-[0.86rem] leading-snug text-soft">
        {[trade.exposures.length > 1 || trade.on_auto ? "" : way?.slip, trade.cost]
          .filter(Boolean)
          .join("; ")}
      </span>
    </>
  );
  // What is done in the world or by the phone itself changes nothing in the sheet.
  if (!way || Object.keys(way.patch).length === 0)
    return <div className="px-3 py-2 text-left leading-tight">{words}</div>;
  return (
    <button
      type="button"
      className="grid w-full grid-cols-[1fr_auto] items-center gap-2 px-3 py-2 text-left leading-tight hover:bg-sunk"
      onClick={() => edit(trade.text, (b) => ({ ...b, ...way.patch }))}
    >
      <span>{words}</span>
      <span aria-hidden="true" className="text-accent">
        ▸
      </span>
    </button>
  );
}
