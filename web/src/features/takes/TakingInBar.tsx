import { Button } from "../../ui/Button";
import type { TakingIn } from "./useTakingIn";

interface Props {
  state: TakingIn | null;
  onCancel: () => void;
  onDismiss: () => void;
}

/** How far files are in, how long it will take, and which were not taken. */
export function TakingInBar({ state, onCancel, onDismiss }: Props) {
  if (!state) return null;
  const { all, done, leftS, bad, isOver } = state;
  return (
    <section
      aria-label="Imports"
      aria-live="polite"
      className="my-3 rounded border-2 border-strong bg-raised p-3"
    >
      {isOver ? (
        <p className="font-semibold">
          {done - bad.length} of {all} imported, {bad.length} not imported:
        </p>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <b className="tabular-nums">
            {done} of {all}
          </b>
          <progress
            value={done}
            max={all}
            aria-label="Imported pictures"
            className="h-3 min-w-40 flex-1 appearance-none bg-line [&::-moz-progress-bar]:bg-accent [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-accent"
          />
          {leftS !== null && <span className="tabular-nums">{leftWords(leftS)}</span>}
          <Button onClick={onCancel}>Cancel</Button>
        </div>
      )}
      {bad.length > 0 && (
        <ul className="mt-2 grid max-h-40 gap-1 overflow-y-auto text-[0.93rem]">
          {bad.map((file, place) => (
            <li key={place}>
              <b>{file.name}</b>: {file.why}
            </li>
          ))}
        </ul>
      )}
      {isOver && (
        <Button className="mt-2" onClick={onDismiss}>
          Dismiss
        </Button>
      )}
    </section>
  );
}

function leftWords(seconds: number): string {
  if (seconds < 5) return "almost done";
  if (seconds < 90) return `about ${Math.round(seconds / 5) * 5} s left`;
  return `about ${Math.round(seconds / 60)} min left`;
}
