import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useSearch } from "wouter";

import type { LogEntry } from "../../api/client";
import { importWords, useFileImport } from "../../api/useFileImport";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { BulkBar } from "./BulkBar";
import { InboxPart } from "./InboxPart";
import { LogFilters } from "./LogFilters";
import { LogList } from "./LogList";
import { countQuery, logbookQuery, type Looked, lookedIn, searchOf } from "./queries";

/** Everything that was shot: what waits for a sheet, and the logbook of all outings. */
export function TakesPage() {
  const [, go] = useLocation();
  const looked = lookedIn(useSearch());
  const client = useQueryClient();
  const say = useSay();
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const pages = useInfiniteQuery({
    ...logbookQuery(looked),
    placeholderData: (before) => before,
  });
  const entries = pages.data?.pages.flatMap((page) => page.entries) ?? [];
  const { data: count } = useQuery({ ...countQuery(looked), enabled: !pages.isPending });
  const look = (change: Partial<Looked>) => {
    setChosen(new Set());
    const search = searchOf({ ...looked, ...change }).toString();
    go(search ? `/takes?${search}` : "/takes", { replace: true });
  };
  const toggle = (entry: LogEntry) => {
    const next = new Set(chosen);
    if (!next.delete(entry.id)) next.add(entry.id);
    setChosen(next);
  };
  const importing = useFileImport("/logbook/file", async ({ logbook }) => {
    await client.invalidateQueries({ queryKey: ["logbook"] });
    if (!logbook) return;
    const { changed, same, unknown } = logbook;
    const elsewhere = unknown > 0 ? `, ${unknown} of pictures that are not here` : "";
    say(`${changed} changed, ${same} unchanged${elsewhere}.`);
  });
  return (
    <main className="mx-auto max-w-[72rem] px-4 pb-24 md:px-6">
      <div className="flex flex-wrap items-baseline gap-x-4 max-[640px]:pb-3">
        <h1 className="mr-auto py-5 text-2xl font-semibold">Takes</h1>
        <Link
          href="/takes/stacks"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Stacking
        </Link>
        <Link
          href="/takes/learned"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Learned from takes
        </Link>
      </div>
      <InboxPart />
      <LogFilters
        looked={looked}
        onLook={look}
        onImport={(file) => void importing.begin(file)}
        count={count ? { of: count.count, to: count.counted_to } : null}
      />
      {importing.now && (
        <p role="status" className="my-2 flex items-center gap-3">
          <b>{importWords(importing.now)}</b>
          <Button onClick={importing.cancel}>Cancel</Button>
        </p>
      )}
      {pages.error && <p role="alert">{pages.error.message}</p>}
      {entries.length === 0 && !pages.isPending && <NothingFound looked={looked} />}
      <LogList
        entries={entries}
        chosen={chosen}
        onToggle={toggle}
        onEnd={() => {
          if (pages.hasNextPage && !pages.isFetchingNextPage) void pages.fetchNextPage();
        }}
      />
      <BulkBar
        chosen={[...chosen]}
        onDone={() => {
          setChosen(new Set());
          return client.invalidateQueries({ queryKey: ["logbook"] });
        }}
        onNone={() => setChosen(new Set())}
      />
    </main>
  );
}

function NothingFound({ looked }: { looked: Looked }) {
  const isNarrowed = searchOf(looked).size > 0;
  return (
    <p className="rounded border border-dashed border-strong p-6 text-center text-soft">
      {isNarrowed
        ? "No takes match. Remove a filter."
        : "No takes yet. Import pictures above, or add them to a sheet."}
    </p>
  );
}
