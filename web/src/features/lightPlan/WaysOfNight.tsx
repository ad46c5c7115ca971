import type { NightPlan, NightWay } from "../../api/client";
import { Button } from "../../ui/Button";
import { duration, few, fileSize, fixed } from "../../ui/numbers";
import { Explained } from "../help/Explained";
import { Term } from "../help/Term";

const RULES: Record<string, [result: string, name: string]> = {
  npf: ["Points at full size", "NPF rule"],
  "500": ["Points on a screen", "500 rule"],
  pixels: ["As many pixels as asked", ""],
};

interface Props {
  night: NightPlan;
  isBusy: boolean;
  onMake: (way: string) => void;
}

/** One frame, a stack, the phone's own mode: each worked through, one becomes a sheet. */
export function WaysOfNight({ night, isBusy, onMake }: Props) {
  return (
    <>
      <div className="mt-4 grid gap-3 lg:grid-cols-2">
        {night.ways.map((way) => (
          <Way key={way.id} way={way} isBusy={isBusy} onMake={() => onMake(way.id)} />
        ))}
      </div>
      <div className="mt-4 grid gap-4 lg:grid-cols-2">
        <section aria-label="Longest shutter" className="overflow-x-auto">
          <h3 className="font-semibold">Longest shutter</h3>
          <table className="mt-1 w-full text-left tabular-nums">
            <thead className="text-soft">
              <tr>
                <th className="font-normal">Stars</th>
                <th className="font-normal">Shutter</th>
                <th className="font-normal">Trail, centre</th>
                <th className="font-normal">Corner</th>
              </tr>
            </thead>
            <tbody>
              {night.rules.map((rule) => (
                <tr key={rule.rule} className="border-t border-line">
                  <td>{RULES[rule.rule]?.[0] ?? rule.rule}</td>
                  <td>{fixed(rule.longest_s, 1)} s</td>
                  <td>{fixed(rule.trail_px, 1)} px</td>
                  <td>{fixed(rule.corner_trail_px, 1)} px</td>
                </tr>
              ))}
            </tbody>
          </table>
          <details className="text-[0.92rem]">
            <summary className="min-h-8 cursor-pointer py-1 max-[899px]:min-h-11">Why?</summary>
            <ul>
              {Object.values(RULES)
                .filter(([, name]) => name)
                .map(([result, name]) => (
                  <li key={name}>
                    {result}: <Explained>{name}</Explained>
                  </li>
                ))}
            </ul>
          </details>
        </section>
        <section aria-label="Focus">
          <h3 className="font-semibold">Focus</h3>
          <p className="mt-1">{night.focus}.</p>
        </section>
      </div>
    </>
  );
}

function Way({ way, isBusy, onMake }: { way: NightWay; isBusy: boolean; onMake: () => void }) {
  return (
    <section
      aria-label={way.name}
      className={`grid content-start gap-2 rounded border p-3 ${way.reaches ? "border-accent bg-accent-soft" : "border-line bg-raised"}`}
    >
      <h3>{way.name}</h3>
      <p className="text-xl font-semibold tabular-nums">{way.label}</p>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-[0.93rem] tabular-nums">
        <dt>Total time</dt>
        <dd>{duration(way.elapsed_s)}</dd>
        <dt>
          <Term id="snr">SNR</Term>
        </dt>
        <dd>{few(way.snr)}</dd>
        <dt>Storage</dt>
        <dd>{fileSize(way.megabytes)}</dd>
        {way.battery_percent !== null && (
          <>
            <dt>Battery</dt>
            <dd>{Math.round(way.battery_percent)} %</dd>
          </>
        )}
      </dl>
      <ul className="grid gap-1 text-[0.93rem]">
        {way.told.map((words) => (
          <li key={words}>{words}.</li>
        ))}
      </ul>
      {way.iso === null ? (
        <p>Open that mode on the phone. There is nothing to dial.</p>
      ) : (
        <Button look={way.reaches ? "main" : "plain"} disabled={isBusy} onClick={onMake}>
          Make a sheet
        </Button>
      )}
    </section>
  );
}
