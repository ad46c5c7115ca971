import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { BinDialog } from "./BinDialog";
import { OutingBoard } from "./OutingBoard";
import { addOuting, outingsQuery } from "./queries";

/** Every outing with its sheets. */
export function OutingsPage() {
  const { data: outings, error, refetch } = useQuery(outingsQuery);
  const [binOpen, setBinOpen] = useState(false);
  const client = useQueryClient();
  const say = useSay();
  const start = useMutation({
    mutationFn: () => addOuting({ title: "New outing", place: "", light_window: "" }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["outings"] }),
    onError: (problem) => say(problem.message),
  });
  return (
    <main className="mx-auto max-w-[80rem] px-3 pb-16 md:px-6">
      <div className="flex flex-wrap items-center gap-2 py-5">
        <h1 className="mr-auto text-2xl font-semibold">Outings</h1>
        <Button look="quiet" onClick={() => setBinOpen(true)}>
          Bin
        </Button>
        <Button look="main" onClick={() => start.mutate()}>
          New outing
        </Button>
      </div>
      {error && (
        <div className="rounded border-2 border-ink bg-raised p-4">
          <p className="mb-2">{error.message}</p>
          <Button onClick={() => void refetch()}>Try again</Button>
        </div>
      )}
      {!outings && !error && <Skeleton />}
      {outings?.length === 0 && (
        <div className="max-w-[60ch] rounded border border-line bg-panel p-6">
          <h2 className="mb-2 text-lg font-semibold">Nothing planned yet</h2>
          <p className="mb-4">
            An outing is a place and a time with a list of intended pictures. Start one, then drop a
            picture taken with your phone on it: its light is measured, and the sheet gives you the
            settings. To look around first, run <b>./oxlen demo</b>: it comes with the outings of
            Kettle Reach.
          </p>
          <Button look="main" onClick={() => start.mutate()}>
            Start your first outing
          </Button>
        </div>
      )}
      <div className="grid gap-6">
        {outings?.map((outing, index) => (
          <OutingBoard key={outing.id} outing={outing} takesPaste={index === 0} />
        ))}
      </div>
      <BinDialog open={binOpen} onOpenChange={setBinOpen} />
    </main>
  );
}

function Skeleton() {
  return (
    <div aria-label="Loading" className="grid gap-6">
      {[0, 1].map((key) => (
        <div key={key} className="h-72 rounded border border-line bg-panel" />
      ))}
    </div>
  );
}
