import { useState } from "react";
import { useLocation } from "wouter";

import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { changeTakes } from "./queries";

const MOST_COMPARED = 4;

interface Props {
  chosen: number[];
  onDone: () => Promise<unknown>;
  onNone: () => void;
}

/** What can be done with the takes that are chosen: all alike. */
export function BulkBar({ chosen, onDone, onNone }: Props) {
  const say = useSay();
  const [, go] = useLocation();
  const [words, setWords] = useState("");
  if (chosen.length === 0) return null;
  const change = (said: Parameters<typeof changeTakes>[1], bin = false) =>
    changeTakes(chosen, said, bin).then(onDone, (error: unknown) =>
      say(error instanceof Error ? error.message : "Not saved. Try again."),
    );
  return (
    <section
      aria-label="Chosen takes"
      className="fixed inset-x-0 bottom-0 z-20 border-t-2 border-ink bg-raised p-3"
    >
      <div className="mx-auto flex max-w-[72rem] flex-wrap items-center gap-2">
        <b className="mr-2 tabular-nums">{chosen.length} chosen</b>
        {chosen.length >= 2 && chosen.length <= MOST_COMPARED && (
          <Button look="main" onClick={() => go(`/takes/compare?ids=${chosen.join(",")}`)}>
            Side by side
          </Button>
        )}
        <Button onClick={() => void change({ state: "kept" })}>Keep</Button>
        <Button onClick={() => void change({ state: "rejected" })}>Reject</Button>
        <form
          className="flex gap-1"
          onSubmit={(event) => {
            event.preventDefault();
            void change({ keywords: words }).then(() => setWords(""));
          }}
        >
          <input
            className="field w-44"
            aria-label="Keywords of selected takes"
            placeholder="keywords, with commas"
            maxLength={500}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <Button type="submit">Set</Button>
        </form>
        <Button look="quiet" onClick={() => void change({}, true)}>
          Delete
        </Button>
        <Button look="quiet" className="ml-auto" onClick={onNone}>
          Clear selection
        </Button>
      </div>
    </section>
  );
}
