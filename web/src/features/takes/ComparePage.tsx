import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useSearch } from "wouter";

import type { ComparedTake } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { TextField } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { changeTake } from "../sheet/takes/queries";
import { CompareFrame, moved, type Sight, zoomed } from "./CompareFrame";
import { comparedQuery } from "./queries";
import { Explained } from "../help/Explained";

const WHOLE: Sight = { scale: 1, x: 0.5, y: 0.5 };
const BLINK_MS = 700;
const STEP = 1.5;
const MOVES = [
  { name: "Move left", sign: "←", across: -1, down: 0 },
  { name: "Move up", sign: "↑", across: 0, down: -1 },
  { name: "Move down", sign: "↓", across: 0, down: 1 },
  { name: "Move right", sign: "→", across: 1, down: 0 },
] as const;
const VIEWS = [
  { value: "beside", text: "Side by side" },
  { value: "blink", text: "Blink" },
] as const;
type View = (typeof VIEWS)[number]["value"];
const STATES = [
  { value: "new", text: "Not judged" },
  { value: "kept", text: "Keep" },
  { value: "rejected", text: "Reject" },
] as const;

/** Two to four takes with one zoom for all, in turn or beside one another, down to their pixels. */
export function ComparePage() {
  const said = new URLSearchParams(useSearch()).get("ids") ?? "";
  const ids = said
    .split(",")
    .map(Number)
    .filter((id) => id > 0)
    .slice(0, 4);
  const { data: takes, error } = useQuery(comparedQuery(ids));
  const [sight, setSight] = useState(WHOLE);
  const [view, setView] = useState<View>("beside");
  const [at, setAt] = useState(0);
  const [pixels, setPixels] = useState(false);
  const count = takes?.length ?? 0;
  useEffect(() => {
    if (view !== "blink" || count < 2) return undefined;
    const timer = window.setInterval(() => setAt((now) => (now + 1) % count), BLINK_MS);
    return () => window.clearInterval(timer);
  }, [view, count]);
  if (ids.length === 0 || error)
    return (
      <main className="p-6">
        <p role="alert">{error?.message ?? "Choose two to four takes to compare them."}</p>
        <Link href="/takes" className="inline-flex min-h-11 items-center underline">
          Back to the takes
        </Link>
      </main>
    );
  if (!takes) return <p className="p-6">Opening the takes…</p>;
  const shown = view === "blink" ? takes.slice(at % count, (at % count) + 1) : takes;
  return (
    <main className="px-3 pb-6 md:px-5">
      <div className="flex flex-wrap items-center gap-3 py-3">
        <Link href="/takes" className="inline-flex min-h-11 items-center underline">
          Back to the takes
        </Link>
        <div className="w-60">
          <Segmented label="View" value={view} options={VIEWS} onChange={setView} />
        </div>
        <CheckField label="1:1 pixels" checked={pixels} onChange={setPixels} />
        <SightButtons {...{ sight, setSight, pixels }} />
        <span className="text-[0.92rem] text-soft">
          {pixels ? "Click to move the view." : "All takes zoom and move together."}
        </span>
      </div>
      {/* Keys come from the frames in it, which have the focus. */}
      {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
      <div
        className={`grid gap-3 ${shown.length > 1 ? "min-[900px]:grid-cols-2" : ""}`}
        onKeyDown={(event) => {
          if (event.key === "+") setSight((now) => zoomed(now, STEP));
          if (event.key === "-") setSight((now) => zoomed(now, 1 / STEP));
        }}
      >
        {shown.map((compared) => (
          <Compared
            key={compared.take.id}
            compared={compared}
            number={takes.indexOf(compared) + 1}
            {...{ sight, setSight, pixels }}
          />
        ))}
      </div>
    </main>
  );
}

interface SightProps {
  sight: Sight;
  setSight: (next: (now: Sight) => Sight) => void;
  pixels: boolean;
}

/** What wheel and drag do, by buttons: for thumbs, keys and screen readers. */
function SightButtons({ sight, setSight, pixels }: SightProps) {
  // A third of what is in view.
  const step = pixels ? 0.02 : 1 / (3 * sight.scale);
  const canMove = pixels || sight.scale > 1;
  const move = (across: number, down: number) => () =>
    setSight((now) => moved(now, across * step, down * step));
  return (
    <div role="group" aria-label="Zoom and move" className="flex flex-wrap gap-1">
      <Button
        aria-label="Zoom out"
        disabled={pixels || sight.scale <= 1}
        onClick={() => setSight((now) => zoomed(now, 1 / STEP))}
      >
        −
      </Button>
      <Button
        aria-label="Zoom in"
        disabled={pixels}
        onClick={() => setSight((now) => zoomed(now, STEP))}
      >
        +
      </Button>
      {canMove &&
        MOVES.map(({ name, sign, across, down }) => (
          <Button key={name} aria-label={name} onClick={move(across, down)}>
            {sign}
          </Button>
        ))}
      <Button onClick={() => setSight(() => WHOLE)} disabled={sight === WHOLE}>
        Whole frame
      </Button>
    </div>
  );
}

interface ComparedProps {
  compared: ComparedTake;
  number: number;
  sight: Sight;
  setSight: (next: (now: Sight) => Sight) => void;
  pixels: boolean;
}

function Compared({ compared, number, sight, setSight, pixels }: ComparedProps) {
  const { take, differs } = compared;
  const client = useQueryClient();
  const [raw, setRaw] = useState(false);
  const judge = (change: Parameters<typeof changeTake>[1]) =>
    changeTake(take.id, change).then(() =>
      Promise.all([
        client.invalidateQueries({ queryKey: ["takes-compared"] }),
        client.invalidateQueries({ queryKey: ["logbook"] }),
      ]),
    );
  return (
    <section aria-label={`Take ${number}`} className="rounded border border-line bg-panel p-2">
      <CompareFrame
        picture={raw && take.raw_picture ? take.raw_picture : take.picture}
        width={compared.width}
        height={compared.height}
        {...{ sight, setSight, pixels }}
      />
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <b className="text-lg tabular-nums">
          {number}. {take.label || "settings unknown"}
        </b>
        {take.raw_picture && (
          <CheckField label="RAW, not developed" checked={raw} onChange={setRaw} />
        )}
        <span className="ml-auto w-72 max-w-full">
          <Segmented
            small
            label={`Decision on take ${number}`}
            value={take.state}
            options={STATES}
            onChange={(state) => void judge({ state })}
          />
        </span>
      </div>
      <ul className="text-[0.93rem]">
        {number > 1 && differs.length === 0 && <li>Same settings as take 1</li>}
        {differs.map((words) => (
          <li key={words}>
            <Explained>{words}</Explained>
          </li>
        ))}
      </ul>
      <div className="mt-1 grid gap-2 md:grid-cols-2">
        <TextField
          label="Note"
          value={take.note}
          maxLength={1000}
          onCommit={(note) => void judge({ note })}
        />
        <TextField
          label="Reason"
          value={take.why}
          maxLength={500}
          onCommit={(why) => void judge({ why })}
        />
      </div>
    </section>
  );
}
