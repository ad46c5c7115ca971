import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useSearch } from "wouter";

import type { FrameSet } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { Preview } from "../../ui/Preview";
import { beginSet, setsQuery } from "./queries";

const STATE: Record<FrameSet["state"], string> = {
  gathering: "waiting for frames",
  working: "being put together",
  stopped: "stopped",
  failed: "not put together",
  done: "done",
};

/** All sets of frames that are put together, and a new one. */
export function TogetherPage() {
  const [, go] = useLocation();
  const asked = Number(new URLSearchParams(useSearch()).get("sheet"));
  const sheet = asked > 0 ? asked : null;
  const { data: sets, error } = useQuery(setsQuery(sheet));
  const [name, setName] = useState("");
  const say = useSay();
  const begin = () =>
    beginSet(name.trim() || "Frames put together", sheet).then(
      (made) => go(`/takes/together/${made.id}`),
      (why: unknown) => say(why instanceof Error ? why.message : "That could not be begun."),
    );
  return (
    <main className="mx-auto max-w-[72rem] px-4 pb-24 md:px-6">
      <Link href={sheet ? `/sheets/${sheet}` : "/takes"} className="mt-4 inline-block underline">
        {sheet ? "Back to the sheet" : "Back to the takes"}
      </Link>
      <h1 className="pt-3 text-2xl font-semibold">Several frames, one picture</h1>
      <p className="mb-4 max-w-prose text-soft">
        Frames from a tripod make water smooth, take crossing boats away, lie on the stars or let
        noise sink. They are added in linear light; the frames themselves stay as they are.
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
          aria-label="Name of the new set"
          placeholder="Name, such as Sluice at dusk"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button look="main" type="submit">
          New set
        </Button>
      </form>
      {error && <p role="alert">{error.message}</p>}
      <ul aria-label="Sets" className="grid gap-3 md:grid-cols-2">
        {(sets ?? []).map((one) => (
          <li key={one.id}>
            <Link
              href={`/takes/together/${one.id}`}
              className="flex items-center gap-3 rounded border border-line bg-panel p-2 hover:border-strong"
            >
              <span className="surround block h-20 w-28 shrink-0 overflow-hidden rounded-xs">
                {one.result_picture && (
                  <Preview
                    picture={one.result_picture}
                    alt=""
                    className="h-full w-full object-cover"
                    lazy
                  />
                )}
              </span>
              <span className="min-w-0">
                <b className="block truncate">{one.name}</b>
                <span className="text-soft">
                  {one.frames} frames, {STATE[one.state]}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {sets?.length === 0 && (
        <p className="rounded border border-dashed border-strong p-6 text-center text-soft">
          No set yet. Give one a name, then add its frames.
        </p>
      )}
    </main>
  );
}
