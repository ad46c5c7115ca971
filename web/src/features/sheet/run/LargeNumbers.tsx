import type { SlipLine } from "../../../api/client";
import { Button } from "../../../ui/Button";

interface Props {
  lines: SlipLine[];
  /** Show them on the lock screen; undefined where the browser cannot. */
  onLock: (() => Promise<void>) | undefined;
  onClose: () => void;
}

/** What to dial and nothing else, as large as it goes: read beside the camera app at arm's length. */
export function LargeNumbers({ lines, onLock, onClose }: Props) {
  return (
    <section
      aria-label="Large numbers"
      className="fixed inset-0 z-20 flex flex-col overflow-y-auto bg-ground p-3"
    >
      <dl className="grid flex-1 grid-cols-1 content-around gap-2 break-words">
        {lines.map((line) => (
          <div key={line.field} className="border-b border-line pb-1">
            <dt className="text-lg text-soft">{line.name}</dt>
            <dd
              className={`leading-none font-bold tabular-nums ${line.on_map ? "text-[min(17vw,7rem)] whitespace-nowrap" : "text-[clamp(1.4rem,7vw,3rem)]"}`}
            >
              {line.value}
            </dd>
          </div>
        ))}
      </dl>
      <div className="mt-3 flex gap-2">
        {onLock && (
          <Button className="min-h-14 flex-1 text-lg" onClick={() => void onLock()}>
            Lock screen
          </Button>
        )}
        <Button className="min-h-14 flex-1 text-lg" onClick={onClose}>
          Checklist
        </Button>
      </div>
    </section>
  );
}
