import type { SlipLine } from "../../../api/client";
import { Button } from "../../../ui/Button";

/** What to dial and nothing else, as large as it goes: read beside the camera app at arm's length. */
export function LargeNumbers({ lines, onClose }: { lines: SlipLine[]; onClose: () => void }) {
  return (
    <section
      aria-label="Large numbers"
      className="fixed inset-0 z-20 flex flex-col overflow-y-auto bg-ground p-3"
    >
      <dl className="grid flex-1 content-around gap-2">
        {lines.map((line) => (
          <div key={line.field} className="border-b border-line pb-1">
            <dt className="text-lg text-soft">{line.name}</dt>
            <dd
              className={`leading-none font-bold tabular-nums ${line.on_map ? "text-[clamp(3rem,19vw,7rem)] whitespace-nowrap" : "text-[clamp(1.4rem,7vw,3rem)]"}`}
            >
              {line.value}
            </dd>
          </div>
        ))}
      </dl>
      <Button className="mt-3 min-h-14 text-lg" onClick={onClose}>
        Checklist
      </Button>
    </section>
  );
}
