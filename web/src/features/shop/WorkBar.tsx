import { Button } from "../../ui/Button";
import { percent } from "../../ui/numbers";

/** How far long work is, and the way to stop it. */
export function WorkBar({
  label,
  share,
  onStop,
}: {
  label: string;
  share: number;
  onStop: () => void;
}) {
  return (
    <div role="status" className="flex min-w-64 flex-1 items-center gap-3">
      <span className="whitespace-nowrap tabular-nums">
        {label} {percent(share)}
      </span>
      <progress
        className="h-3 min-w-24 flex-1 accent-(--accent)"
        max={1}
        value={share}
        aria-label={label}
      />
      <Button onClick={onStop}>Stop</Button>
    </div>
  );
}
