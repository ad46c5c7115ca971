import { Button } from "../../ui/Button";
import type { Incoming } from "./useImport";

const WORDS: Record<Incoming["state"], string> = {
  waiting: "waiting",
  sending: "sending",
  done: "imported",
  refused: "not imported",
  cancelled: "cancelled",
};

interface Props {
  incoming: Incoming[];
  onCancel: (id: number) => void;
  onDismiss: () => void;
  /** Send a file of which only a small copy went in. */
  onWhole?: (file: File) => void;
}

/** Progress per file, and notes on each. */
export function ImportList({ incoming, onCancel, onDismiss, onWhole }: Props) {
  if (incoming.length === 0) return null;
  const busy = incoming.some((each) => each.state === "sending" || each.state === "waiting");
  return (
    <section
      aria-label="Imports"
      className="mb-3 rounded border-2 border-strong bg-raised p-3"
      aria-live="polite"
    >
      <ul className="grid gap-2">
        {incoming.map((each) => (
          <li key={each.id}>
            <div className="flex items-center gap-3">
              <span className="min-w-0 flex-1 truncate font-semibold">{each.name}</span>
              <span>
                {each.state === "sending" && each.progress >= 1 ? "reading" : WORDS[each.state]}
              </span>
              {each.state === "sending" && (
                <progress
                  value={each.progress}
                  max={1}
                  aria-label={`${each.name} progress`}
                  className="h-2.5 w-36 appearance-none bg-line [&::-moz-progress-bar]:bg-accent [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-accent"
                />
              )}
              {(each.state === "sending" || each.state === "waiting") && (
                <Button look="quiet" onClick={() => onCancel(each.id)}>
                  Cancel
                </Button>
              )}
            </div>
            {each.whole && onWhole && (
              <p className="flex flex-wrap items-center gap-3 text-[0.92rem]">
                A small copy was sent. It is enough to read the light.
                <Button onClick={() => each.whole && onWhole(each.whole)}>Send full size</Button>
              </p>
            )}
            {each.notes.map((note) => (
              <p key={note} className="text-[0.92rem]">
                {note}
              </p>
            ))}
          </li>
        ))}
      </ul>
      {!busy && (
        <Button className="mt-2" onClick={onDismiss}>
          Dismiss
        </Button>
      )}
    </section>
  );
}
