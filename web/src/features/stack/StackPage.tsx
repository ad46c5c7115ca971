import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, useLocation } from "wouter";

import { ask, type Stack, type StackAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { FramesPart } from "./FramesPart";
import { HowPart } from "./HowPart";
import { LookPart } from "./LookPart";
import {
  addTakes,
  askedOf,
  changeSet,
  nameOfTake,
  removeSet,
  setQuery,
  startSet,
  stopSet,
} from "./queries";
import { ResultPart } from "./ResultPart";

/** One set of frames: what is in it, how it is stacked, how far it is, the result. */
export function StackPage({ id }: { id: number }) {
  const { data: set, error } = useQuery(setQuery(id));
  const client = useQueryClient();
  const [, go] = useLocation();
  const say = useSay();
  const inTurn = useInTurn();
  const complain = (why: unknown) =>
    say(why instanceof Error ? why.message : "That did not work. Try again.");
  const state = set?.state;
  useEffect(() => {
    if (state === "done") void client.invalidateQueries({ predicate: isOfTakes });
  }, [client, state]);
  if (error) return <p className="p-6">{error.message}</p>;
  if (!set) return <p className="p-6">Opening…</p>;
  const tell = (now: Stack) => client.setQueryData(setQuery(id).queryKey, now);
  const settle = (work: () => Promise<Stack>) =>
    inTurn(() => work().then(tell, complain)).then((now) => now ?? null);
  const askFor = (asked: StackAsked) => settle(() => changeSet(id, asked));
  const addLand = (takes: number[]) =>
    settle(async () => {
      const kept = await ask<Stack>(`/stacks/${id}`);
      const grown = await addTakes(id, takes, kept.is_raw);
      return changeSet(id, { ...askedOf(grown), land: takes.map(nameOfTake) });
    });
  const remove = () => removeSet(id).then(() => go(back), complain);
  const back = set.sheet_id === null ? "/takes/stacks" : `/takes/stacks?sheet=${set.sheet_id}`;
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href={back} className="mt-2 inline-flex min-h-11 items-center underline">
        All stacks
      </Link>
      <h1 className="py-3 text-2xl font-semibold">{set.name}</h1>
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="grid content-start gap-4">
          <LookPart set={set} />
          <ResultPart set={set} />
        </div>
        <div className="grid content-start gap-4">
          <WorkBar
            set={set}
            onStart={() => void settle(() => startSet(id))}
            onStop={() => void settle(() => stopSet(id))}
          />
          <FramesPart set={set} onChange={(now) => void settle(() => now)} />
          <HowPart set={set} onAsk={askFor} onAddTakes={(takes) => void addLand(takes)} />
          {state !== "working" && (
            <Button look="quiet" onClick={() => void remove()}>
              Delete stack
            </Button>
          )}
        </div>
      </div>
    </main>
  );
}

/** Work done one after another: what was asked before a start must have been kept by then. */
function useInTurn() {
  const last = useRef<Promise<unknown>>(Promise.resolve());
  return <T,>(work: () => Promise<T>): Promise<T> => {
    const done = last.current.then(work);
    last.current = done;
    return done;
  };
}

const isOfTakes = ({ queryKey }: { queryKey: readonly unknown[] }) =>
  ["logbook", "takes", "inbox", "sheet"].includes(String(queryKey[0]));

interface WorkProps {
  set: Stack;
  onStart: () => void;
  onStop: () => void;
}

/** The one thing to do next, and how far it is. */
function WorkBar({ set, onStart, onStop }: WorkProps) {
  const { state, progress } = set;
  if (state === "working") {
    const share = progress?.share ?? 0;
    return (
      <section
        aria-label="Progress"
        className="rounded border border-line bg-panel p-4"
        aria-live="polite"
      >
        <p className="font-semibold">{sentence(progress?.doing ?? "waiting")}</p>
        <progress className="my-2 h-3 w-full accent-(--accent)" max={1} value={share} />
        <div className="flex items-center justify-between gap-3">
          <span className="text-soft tabular-nums">
            {Math.round(100 * share)} %{progress?.left_s ? `, ${seconds(progress.left_s)}` : ""}
          </span>
          <Button onClick={onStop}>Stop</Button>
        </div>
      </section>
    );
  }
  const word = state === "stopped" ? "Continue" : state === "done" ? "Stack again" : "Start";
  return (
    <section aria-label="Start" className="rounded border border-line bg-panel p-4">
      {set.problem && (
        <p role="alert" className="mb-2 border-l-4 border-accent pl-3">
          {set.problem}
        </p>
      )}
      {state === "stopped" && <p className="mb-2">Stopped. The work so far is saved.</p>}
      <Button
        look={state === "done" ? "plain" : "main"}
        disabled={set.frames < 2}
        onClick={onStart}
        className="w-full"
      >
        {word}
      </Button>
      {set.frames < 2 && <p className="mt-2 text-soft">Add at least 2 frames.</p>}
    </section>
  );
}

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
const seconds = (left: number) =>
  left < 90
    ? `about ${Math.max(1, Math.round(left))} s left`
    : `about ${Math.round(left / 60)} min left`;
