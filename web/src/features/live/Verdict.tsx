import type { ReactNode } from "react";

import type { TakeChecked } from "../../api/client";
import { Button } from "../../ui/Button";
import type { Dialled } from "./queries";

/** What *Dial it* set, line by line. */
export function DialledLines({ dialled }: { dialled: Dialled }) {
  return (
    <Said title={dialled.words}>
      <ul className="mt-1 grid gap-1">
        {dialled.lines.map((line) => (
          <li key={line.field} className="flex flex-wrap gap-x-2">
            <span className="text-soft">{line.name}</span>
            <b className="tabular-nums">{line.wanted}</b>
            <span>{line.words}</span>
          </li>
        ))}
      </ul>
    </Said>
  );
}

/** The one change after a take, or that it is as planned. */
export function TakeVerdict(props: { check: TakeChecked; onDial: (() => void) | null }) {
  const { check, onDial } = props;
  // No browser saves RAW: the plan changes, the camera's settings do not.
  const isOfFile = "format" in check.patch;
  return (
    <Said title={check.state === "keep" ? "As planned" : check.next.one_change}>
      <p className="text-soft">{check.next.why}</p>
      {onDial && (
        <Button look="main" className="mt-2 min-h-12" onClick={onDial}>
          {isOfFile ? "Plan RAW" : "Dial the correction"}
        </Button>
      )}
      {isOfFile && <p className="mt-2">The browser saves JPEG. Shoot RAW in the camera app.</p>}
    </Said>
  );
}

function Said({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div role="status" className="rounded border-2 border-accent bg-raised p-3">
      <p className="text-lg font-semibold">{title}</p>
      {children}
    </div>
  );
}
