import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useSearch } from "wouter";

import type { Stack } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { Preview } from "../../ui/Preview";
import { beginSet, setsQuery } from "./queries";

const STATE: Record<Stack["state"], string> = {
  gathering: "waiting for frames",
  working: "stacking",
  stopped: "stopped",
  failed: "failed",
  done: "done",
};

/** All sets of frames that are stacked, and a new one. */
export function StacksPage() {
  const [, go] = useLocation();
  const asked = Number(new URLSearchParams(useSearch()).get("sheet"));
  const sheet = asked > 0 ? asked : null;
  const { data: sets, error } = useQuery(setsQuery(sheet));
  const [name, setName] = useState("");
  const say = useSay();
  const begin = () =>
    beginSet(name.trim() || "Stack", sheet).then(
      (made) => go(`/takes/stacks/${made.id}`),
      (why: unknown) => say(why instanceof Error ? why.message : "That did not start. Try again."),
    );
  return (
    <main className="mx-auto max-w-[72rem] px-4 pb-24 md:px-6">
      <Link
        href={sheet ? `/sheets/${sheet}` : "/takes"}
        className="mt-2 inline-flex min-h-11 items-center underline"
      >
        {sheet ? "Back to the sheet" : "Back to the takes"}
      </Link>
      <h1 className="pt-3 text-2xl font-semibold">Stacking</h1>
      <p className="mb-4 max-w-prose text-soft">
        Stack frames to smooth water, remove passing boats, keep stars sharp or lower noise. The
        frames stay as they are.
      </p>
      <form
        className="mb-6 flex max-w-xl gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <input
          className="field min-w-0 flex-1"
          aria-label="Name of the new stack"
          placeholder="Stack name"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button look="main" type="submit">
          New stack
        </Button>
      </form>
      {error && <p role="alert">{error.message}</p>}
      <ul aria-label="Stacks" className="grid gap-3 md:grid-cols-2">
        {(sets ?? []).map((set) => (
          <li key={set.id}>
            <Link
              href={`/takes/stacks/${set.id}`}
              className="flex items-center gap-3 rounded border border-line bg-panel p-2 hover:border-strong"
            >
              <span className="surround block h-20 w-28 shrink-0 overflow-hidden rounded-xs">
                {set.result_picture && (
                  <Preview
                    picture={set.result_picture}
                    alt=""
                    className="h-full w-full object-cover"
                    lazy
                  />
                )}
              </span>
              <span className="min-w-0">
                <b className="block truncate">{set.name}</b>
                <span className="text-soft">
                  {set.frames} frames, {STATE[set.state]}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {sets?.length === 0 && (
        <p className="rounded border border-dashed border-strong p-6 text-center text-soft">
          No stacks yet. Enter a name, then add frames.
        </p>
      )}
    </main>
  );
}
