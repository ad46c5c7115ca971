import type { Answer } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { signed } from "../../labels";
import { SlipFigures } from "./SlipFigures";
import { brokenAt, type Pair, residualOf, wordsOf } from "../map/mapModel";
import { OpenNumber } from "../limits/OpenNumber";
import { ResidualMark } from "./ResidualMark";
import { type Line, linesOf } from "./slipText";
import type { Edit } from "../useSheetEditor";

interface Props {
  answer: Answer;
  pair: Pair | null;
  byHand: boolean;
  edit: Edit;
  onCopy: () => void;
}

/** The answer: what to dial, in the order to dial it, each with the one reason that decided it. */
export function Slip({ answer, pair, byHand, edit, onCopy }: Props) {
  const { plan, map } = answer;
  const lines = linesOf(answer, pair, byHand);
  return (
    <section aria-label="Slip" className="tag flex min-h-full flex-col px-4 pt-3 pb-4">
      <Eyelet />
      <h2 className="mb-1 text-center text-[0.9rem] text-soft">
        Dial on {answer.phone_name}, in this order
      </h2>
      {lines.length === 0 && (
        <NoSlip words={answer.why_no_plan ?? "No pair of steps keeps every limit."} />
      )}
      <ol className="divide-y divide-line border-y border-line">
        {lines.map((line, index) => (
          <SlipRow key={line.field} line={line} number={index + 1} />
        ))}
      </ol>
      {map && plan && pair && (
        <Residual
          stops={residualOf(map, pair)}
          words={wordsOf(map, pair)}
          half={map.half_step_stops}
        />
      )}
      {pair && <SlipFigures answer={answer} pair={pair} />}
      {byHand && (
        <div className="mt-2 border-2 border-ink p-2">
          <p className="font-semibold">Chosen by hand</p>
          {map && pair && <Broken ids={brokenAt(map, pair)} answer={answer} />}
          <Button
            className="mt-1 w-full"
            onClick={() => edit("back to plan", (b) => ({ ...b, steps_by_hand: null }))}
          >
            Back to the plan
          </Button>
        </div>
      )}
      {plan?.conflict && <Conflict answer={answer} edit={edit} />}
      {plan && <Aim answer={answer} />}
      <div className="no-print mt-auto flex gap-2 pt-3">
        <Button className="flex-1" onClick={onCopy} disabled={lines.length === 0}>
          Copy
        </Button>
        <Button className="flex-1" onClick={() => window.print()} disabled={lines.length === 0}>
          Print card
        </Button>
      </div>
    </section>
  );
}

function Eyelet() {
  return (
    <svg viewBox="0 0 60 22" className="mx-auto h-5" aria-hidden="true">
      <circle
        cx="30"
        cy="11"
        r="7"
        fill="var(--ground)"
        stroke="var(--line-strong)"
        strokeWidth="1.5"
      />
    </svg>
  );
}

function NoSlip({ words }: { words: string }) {
  return <p className="my-3 rounded border border-dashed border-strong p-4">{words}</p>;
}

function SlipRow({ line, number }: { line: Line; number: number }) {
  return (
    <li className="grid grid-cols-[1.2rem_1fr_auto] items-baseline gap-x-2 py-2">
      <span className="text-soft">{number}</span>
      <span>{line.name}</span>
      <span className="text-right text-[1.85rem] leading-none font-bold whitespace-nowrap">
        {line.value}
      </span>
      <span className="col-span-2 col-start-2 text-[0.88rem] leading-snug text-soft">
        {line.reason}
      </span>
    </li>
  );
}

function Residual({ stops, words, half }: { stops: number; words: string; half: number }) {
  return (
    <div className="py-2">
      <div className="flex items-baseline justify-between gap-2">
        <span className="text-[0.9rem]">Leftover</span>
        <b>{signed(stops, 2)} stop</b>
      </div>
      <ResidualMark stops={stops} half={half} />
      <p className="text-[0.88rem] text-soft">{words}</p>
    </div>
  );
}

function Broken({ ids, answer }: { ids: string[]; answer: Answer }) {
  if (ids.length === 0) return <p className="text-[0.9rem]">It keeps every limit.</p>;
  const limits = answer.plan?.limits ?? [];
  return (
    <ul className="text-[0.9rem]">
      {ids.map((id) => (
        <li key={id}>Breaks “{limits.find((limit) => limit.id === id)?.name ?? id}”</li>
      ))}
    </ul>
  );
}

function Conflict({ answer, edit }: { answer: Answer; edit: Edit }) {
  const conflict = answer.plan?.conflict;
  if (!conflict) return null;
  return (
    <div className="mt-2 bg-ink p-3 text-raised">
      <p className="font-semibold">{conflict.sentence}</p>
      <div className="mt-2 grid gap-1.5">
        {conflict.trades.map((trade) => (
          <button
            key={trade.id}
            type="button"
            className="rounded border border-raised px-2 py-1.5 text-left leading-tight hover:bg-raised hover:text-ink"
            onClick={() => edit(trade.text, (b) => ({ ...b, ...answer.trades[trade.id]?.patch }))}
          >
            {trade.text}
            <span className="block text-[0.85rem] opacity-85">
              {answer.trades[trade.id]?.slip}; costs: {trade.cost}
            </span>
          </button>
        ))}
      </div>
    </div>
  );
}

function Aim({ answer }: { answer: Answer }) {
  const plan = answer.plan;
  const reason = plan?.reasons.find((each) => each.value === "exposure");
  if (!plan || !reason) return null;
  const { slip } = plan;
  return (
    <p className="mt-2 text-[0.9rem] leading-snug">
      {reason.text}{" "}
      {slip && (
        <OpenNumber
          computation="ev100"
          inputs={{ N: slip.f_number, t: slip.shutter_s, iso: slip.iso }}
          title="Exposure of the slip"
        >
          What the slip exposes for
        </OpenNumber>
      )}
    </p>
  );
}
