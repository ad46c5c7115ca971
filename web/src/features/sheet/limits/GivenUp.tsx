import type { SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import type { EditorProps } from "./LimitBoard";
import { stops } from "../../../ui/numbers";

type Strategy = SheetBody["strategy"];

/** What the sheet has given up so far, each to be wanted again. */
export function GivenUp({ body, edit }: Pick<EditorProps, "body" | "edit">) {
  const { strategy } = body;
  const again = (part: Partial<Strategy>) =>
    edit("wanted again", (b) => ({
      ...b,
      strategy: { ...b.strategy, ...part },
      steps_by_hand: null,
    }));
  const rows: [string, Partial<Strategy>][] = [
    ...strategy.given_up.map((name): [string, Partial<Strategy>] => [
      `${name} may land anywhere`,
      { given_up: strategy.given_up.filter((item) => item !== name) },
    ]),
  ];
  if (strategy.let_clip) rows.push(["Brightest detail may clip", { let_clip: false }]);
  if (strategy.grainy_dark) rows.push(["Darkest detail may be noisy", { grainy_dark: false }]);
  if (strategy.darker_stops > 0)
    rows.push([`${stops(strategy.darker_stops)} darker than wanted`, { darker_stops: 0 }]);
  if (rows.length === 0) return null;
  return (
    <section aria-label="Given up">
      <h4 className="text-[0.82rem] text-soft">Given up</h4>
      <ul className="divide-y divide-line">
        {rows.map(([words, part]) => (
          <li key={words} className="flex items-center justify-between gap-3 py-1">
            <span>{words}</span>
            <Button onClick={() => again(part)}>Restore</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
