import { useId } from "react";

import { CheckField } from "../../../ui/CheckField";
import { NumberField } from "../../../ui/Field";
import { namesIn, nextNames } from "./names";

export const MOST = 100;

interface Props {
  /** The title that new ones are numbered after. */
  title: string;
  taken: readonly string[];
  text: string;
  onText: (text: string) => void;
  others: readonly { id: number; title: string }[];
  chosen: readonly number[];
  onChosen: (chosen: readonly number[]) => void;
}

/** Which pictures a series gets: so many new ones by name, and sheets of the outing. */
export function MembersFields(props: Props) {
  const { title, taken, text, onText, others, chosen, onChosen } = props;
  const id = useId();
  const names = namesIn(text);
  const toggled = (number: number) =>
    chosen.includes(number) ? chosen.filter((each) => each !== number) : [...chosen, number];
  return (
    <>
      <div className="mb-3 grid grid-cols-[9rem_minmax(0,1fr)] gap-3 max-sm:grid-cols-1">
        <NumberField
          label="New pictures"
          value={names.length}
          low={0}
          high={MOST}
          digits={3}
          onCommit={(count) => onText(nextNames(title, taken, Math.round(count ?? 0)).join("\n"))}
        />
        <div>
          <label htmlFor={id} className="mb-0.5 block text-[0.82rem] text-soft">
            Names
          </label>
          <textarea
            id={id}
            className="field"
            rows={Math.min(8, Math.max(3, names.length + 1))}
            value={text}
            aria-describedby={`${id}-hint`}
            onChange={(event) => onText(event.target.value)}
          />
          <p id={`${id}-hint`} className="mt-0.5 text-[0.8rem] leading-tight text-soft">
            One a line. Paste a list or a table.
          </p>
        </div>
      </div>
      {others.length > 0 && (
        <details className="mb-3">
          <summary className="min-h-11 cursor-pointer content-center font-semibold">
            Add sheets of this outing{chosen.length > 0 && `: ${chosen.length}`}
          </summary>
          {others.map((other) => (
            <div key={other.id}>
              <CheckField
                label={other.title}
                checked={chosen.includes(other.id)}
                onChange={() => onChosen(toggled(other.id))}
              />
            </div>
          ))}
        </details>
      )}
    </>
  );
}
