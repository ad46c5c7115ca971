import type { Answer, SheetBody } from "../../../api/client";
import { ev, percent, signed } from "../../../ui/numbers";
import { blurWords, noiseWords } from "../slip/SlipFigures";
import type { Edit } from "../useSheetEditor";
import { Explained } from "../../help/Explained";

interface Props {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}

/** Other slips on the same exposure, what could be given up, and what auto would do. */
export function WaysPart({ body, answer, edit }: Props) {
  const { plan } = answer;
  if (!plan) return <p className="text-soft">Alternatives need a reading.</p>;
  return (
    <div className="grid gap-x-6 gap-y-4 lg:grid-cols-[1fr_1fr_1.1fr]">
      <Alternatives answer={answer} edit={edit} />
      <Trades body={body} answer={answer} edit={edit} />
      <Auto answer={answer} />
    </div>
  );
}

const HEAD = "mb-1 text-[0.82rem] text-soft";

function Alternatives({ answer, edit }: Omit<Props, "body">) {
  const { plan, map } = answer;
  const label = (shutterS: number) =>
    map?.shutters.find((step) => step.value_s === shutterS)?.label ?? `${shutterS} s`;
  const name = (id: string) => plan?.limits.find((limit) => limit.id === id)?.name ?? id;
  return (
    <div>
      <h3 className={HEAD}>Between least blur and least noise</h3>
      <table className="w-full text-[0.93rem]">
        <thead className="text-left text-[0.8rem] text-soft">
          <tr>
            <th className="font-normal">Shutter</th>
            <th className="font-normal">ISO</th>
            <th className="font-normal">Blur</th>
            <th className="font-normal">
              <Explained>SNR</Explained>
            </th>
            <th className="font-normal">
              <Explained>Clipped</Explained>
            </th>
          </tr>
        </thead>
        <tbody>
          {plan?.alternatives.map(({ slip, figures, broken }) => (
            <tr
              key={`${slip.iso}-${slip.shutter_s}`}
              className="border-t border-line hover:bg-sunk"
              title={broken.length ? `Breaks ${broken.map(name).join(", ")}` : "Meets every limit"}
            >
              <td>
                <button
                  type="button"
                  className="min-h-8 font-semibold underline decoration-dotted underline-offset-3"
                  onClick={() =>
                    edit("steps by hand", (b) => ({
                      ...b,
                      steps_by_hand: { iso: slip.iso, shutter_s: slip.shutter_s },
                    }))
                  }
                >
                  {label(slip.shutter_s)}
                </button>
                {broken.length > 0 && <span className="text-soft"> breaks {broken.length}</span>}
              </td>
              <td>{slip.iso}</td>
              <td>{blurWords(figures.blur_px, figures.blur_share).split(",")[0]}</td>
              <td>{noiseWords(figures.snr_subject)}</td>
              <td>{figures.clipped_share === null ? "–" : percent(figures.clipped_share)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Trades({ answer, edit }: Props) {
  const trades = answer.plan?.trades ?? [];
  return (
    <div>
      <h3 className={HEAD}>Other compromises</h3>
      {trades.length === 0 && <p className="text-soft">Nothing else changes the slip.</p>}
      <ul className="grid gap-1">
        {trades.map((trade) => (
          <li key={trade.id}>
            <button
              type="button"
              disabled={Object.keys(answer.trades[trade.id]?.patch ?? {}).length === 0}
              className="grid w-full grid-cols-[1fr_auto] gap-x-2 rounded border border-line bg-raised px-2 py-1 text-left text-[0.92rem] leading-tight not-disabled:hover:border-strong"
              onClick={() => edit(trade.text, (b) => ({ ...b, ...answer.trades[trade.id]?.patch }))}
            >
              <span>{trade.text}</span>
              <b className="whitespace-nowrap">{answer.trades[trade.id]?.slip}</b>
              <span className="col-span-2 text-[0.84rem] text-soft">
                {trade.cost}; SNR {noiseWords(trade.figures.snr_subject)}, blur{" "}
                {blurWords(trade.figures.blur_px, trade.figures.blur_share).split(",")[0]}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The same picture on auto, in four steps; or why auto will not do. */
function AutoSteps({ steps }: { steps: NonNullable<Answer["plan"]>["auto_steps"] }) {
  if (steps.why_not)
    return (
      <p className="mb-2 border-l-4 border-ink pl-2">
        <Explained>{steps.why_not}</Explained>
      </p>
    );
  return (
    <ol className="mb-2 grid list-decimal gap-0.5 border-l-4 border-accent pl-7">
      {steps.steps.map((step) => (
        <li key={step}>
          <Explained>{step}</Explained>
        </li>
      ))}
    </ol>
  );
}

function Auto({ answer }: { answer: Answer }) {
  const { plan, patterns } = answer;
  return (
    <div>
      <h3 className={HEAD}>Phone on auto</h3>
      {plan?.auto_steps && <AutoSteps steps={plan.auto_steps} />}
      {plan?.auto ? (
        <p className="mb-2 border-l-4 border-ink pl-2">
          <Explained>{plan.auto.words}</Explained>
        </p>
      ) : (
        <p className="mb-2 text-soft">Auto's reading is unknown. Add a picture or its settings.</p>
      )}
      {patterns.length > 0 && (
        <table className="w-full text-[0.92rem]">
          <thead className="text-left text-[0.8rem] text-soft">
            <tr>
              <th className="font-normal">Metered by</th>
              <th className="font-normal">Reading</th>
              <th className="font-normal">Auto settings</th>
              <th className="text-right font-normal">Difference</th>
            </tr>
          </thead>
          <tbody>
            {patterns.map((pattern) => (
              <tr key={pattern.id} className="border-t border-line" title={pattern.words}>
                <td className="py-1 pr-2 leading-tight">{pattern.name}</td>
                <td className="pr-2 whitespace-nowrap">{ev(pattern.ev100)}</td>
                <td className="pr-2 whitespace-nowrap">{pattern.slip}</td>
                <td className="text-right whitespace-nowrap">{signed(pattern.brighter_stops)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
