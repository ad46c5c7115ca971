import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useLocation, useSearchParams } from "wouter";

import { Button } from "../../ui/Button";
import { useAfterFirstSight } from "../../ui/firstSight";
import { laterDialog } from "../../ui/later";
import { useSay } from "../../ui/Notices";
import { meQuery } from "../network/queries";
import { phonesQuery } from "../sheet/queries";
import { OutingFileButton } from "./OutingFileButton";
import { OutingList } from "./OutingList";
import { addOuting, outingsQuery } from "./queries";

const BinDialog = laterDialog(() => import("./BinDialog").then((all) => all.BinDialog));

/** Outings with their sheets, newest first, and a search among them. */
export function OutingsPage() {
  const [address, setAddress] = useSearchParams();
  const words = address.get("find") ?? "";
  const query = useInfiniteQuery(outingsQuery(words));
  const { error, refetch, hasNextPage, isFetching, fetchNextPage } = query;
  const outings = query.data?.pages.flat();
  useAfterFirstSight();
  const more = useCallback(() => {
    if (hasNextPage && !isFetching) void fetchNextPage();
  }, [hasNextPage, isFetching, fetchNextPage]);
  const find = (typed: string) =>
    setAddress(typed === "" ? {} : { find: typed }, { replace: true });
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const [binOpen, setBinOpen] = useState(false);
  const client = useQueryClient();
  const say = useSay();
  const start = useMutation({
    mutationFn: () => addOuting({ title: "New outing", place: "", light_window: "" }),
    // A list still on its way was asked for before: it would not have the new outing.
    onSuccess: async () => {
      await client.cancelQueries({ queryKey: ["outings"] });
      await client.invalidateQueries({ queryKey: ["outings"] });
    },
    onError: (problem) => say(problem.message),
  });
  return (
    <main className="mx-auto max-w-[80rem] px-3 pb-16 md:px-6">
      <div className="flex flex-wrap items-center gap-2 py-5">
        <h1 className="mr-auto text-2xl font-semibold">Outings</h1>
        <input
          type="search"
          value={words}
          onChange={(event) => find(event.target.value)}
          aria-label="Find outings and sheets by title or place"
          placeholder="Find outings"
          maxLength={120}
          className="order-last min-h-11 w-full rounded border border-strong bg-raised px-3 md:order-none md:w-64"
        />
        {!isPhone && <OutingFileButton />}
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
      {outings?.length === 0 && words !== "" && (
        <p className="rounded border border-line bg-panel p-6">
          No outing or sheet has “{words}” in its title or place.{" "}
          <button type="button" className="text-accent underline" onClick={() => find("")}>
            Show all outings
          </button>
        </p>
      )}
      {outings?.length === 0 && words === "" && <FirstSteps />}
      {outings && <OutingList outings={outings} onEnd={more} />}
      <BinDialog open={binOpen} onOpenChange={setBinOpen} />
    </main>
  );
}

/** Phones for practice, which are nobody's. */
const PRACTICE = /^mystery-\d/;

/** Nothing is planned: the phone first, since slips are in its own steps, then the picture. */
function FirstSteps() {
  const [, go] = useLocation();
  const { data: phones } = useQuery(phonesQuery);
  const hasOwn = phones?.some(({ shipped, profile }) => !shipped && !PRACTICE.test(profile.id));
  return (
    <div className="grid gap-3 md:grid-cols-2">
      <section
        hidden={hasOwn !== false}
        className="grid content-between gap-3 rounded border border-line bg-panel p-5"
      >
        <div>
          <h2 className="mb-1 text-lg font-semibold">Add your phone</h2>
          <p>
            Drop 3 to 10 original pictures, some RAW, from each lens. Oxlen reads the lenses, pixels
            and noise from them, so slips match your phone.
          </p>
        </div>
        <p>
          <Button look="main" onClick={() => go("/kit/new")}>
            Add my phone
          </Button>
        </p>
      </section>
      <section className="grid content-between gap-3 rounded border border-line bg-panel p-5">
        <div>
          <h2 className="mb-1 text-lg font-semibold">No outings yet</h2>
          <p>
            Plan a picture: choose a situation and answer two or three questions. The slip shows
            what to dial. To look around first, run <b>./oxlen demo</b> for the Kettle Reach demo.
          </p>
        </div>
        <p>
          <Button onClick={() => go("/begin")}>Plan a picture</Button>
        </p>
      </section>
    </div>
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
