import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense } from "react";
import { Link, Route, Switch } from "wouter";

import { Refusal } from "../api/client";
import { later } from "../ui/later";
import { Notices } from "../ui/Notices";
import { useSending } from "../features/sheet/takes/useSending";
import { useNews } from "./news";
import { forgetHere } from "./offline";
import { OfflineBar } from "./OfflineBar";
import { Shell } from "./Shell";
import { useFocusKept } from "./useFocusKept";

const SheetPage = later(() => import("../features/sheet/SheetPage").then((all) => all.SheetPage));
const RunPage = later(() => import("../features/sheet/run/RunPage").then((all) => all.RunPage));
const OutingsPage = later(() =>
  import("../features/outings/OutingsPage").then((all) => all.OutingsPage),
);
const KitPage = lazy(() =>
  import("../features/kit/KitPage").then((all) => ({ default: all.KitPage })),
);
const PhoneMaker = lazy(() =>
  import("../features/phone/PhoneMaker").then((all) => ({ default: all.PhoneMaker })),
);
const TakesPage = lazy(() =>
  import("../features/takes/TakesPage").then((all) => ({ default: all.TakesPage })),
);
const LearnedPage = lazy(() =>
  import("../features/takes/LearnedPage").then((all) => ({ default: all.LearnedPage })),
);
const ComparePage = lazy(() =>
  import("../features/takes/ComparePage").then((all) => ({ default: all.ComparePage })),
);
const BeginPage = lazy(() =>
  import("../features/begin/BeginPage").then((all) => ({ default: all.BeginPage })),
);
const WordsPage = lazy(() =>
  import("../features/help/WordsPage").then((all) => ({ default: all.WordsPage })),
);
const NetworkPage = lazy(() =>
  import("../features/network/NetworkPage").then((all) => ({ default: all.NetworkPage })),
);
const PairPage = lazy(() =>
  import("../features/network/PairPage").then((all) => ({ default: all.PairPage })),
);

/** A phone that is not let in, or no longer, goes to where it can be. */
function toTheDoor(error: Error) {
  const shut = error instanceof Refusal && error.problem.code === "not-paired";
  if (!shut || window.location.pathname === "/pair") return;
  void forgetHere().finally(() => window.location.assign("/pair"));
}

const client = new QueryClient({
  queryCache: new QueryCache({ onError: toTheDoor }),
  defaultOptions: {
    // What is kept on the phone answers without the network too.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      staleTime: 30_000,
      retry: (count, error) => count < 2 && !(error instanceof Refusal && error.problem.status > 0),
    },
  },
});

/** The whole app. */
export function App() {
  useFocusKept();
  return (
    <QueryClientProvider client={client}>
      <NightFilter />
      <Listening />
      <OfflineBar />
      <Notices>
        <Switch>
          <Route path="/sheets/:id">{({ id }) => <SheetPage key={id} id={Number(id)} />}</Route>
          <Route path="/sheets/:id/run">{({ id }) => <RunPage key={id} id={Number(id)} />}</Route>
          <Route path="/kit/new">
            <InShell>
              <PhoneMaker />
            </InShell>
          </Route>
          <Route path="/kit">
            <InShell>
              <KitPage />
            </InShell>
          </Route>
          <Route path="/takes">
            <InShell>
              <TakesPage />
            </InShell>
          </Route>
          <Route path="/takes/learned">
            <InShell>
              <LearnedPage />
            </InShell>
          </Route>
          <Route path="/takes/compare">
            <InShell>
              <ComparePage />
            </InShell>
          </Route>
          <Route path="/begin">
            <InShell>
              <BeginPage />
            </InShell>
          </Route>
          <Route path="/phone">
            <InShell>
              <NetworkPage />
            </InShell>
          </Route>
          <Route path="/pair">
            <Suspense fallback={<p className="p-6">Opening…</p>}>
              <PairPage />
            </Suspense>
          </Route>
          <Route path="/words">
            <InShell>
              <WordsPage />
            </InShell>
          </Route>
          <Route path="/">
            <Shell>
              <OutingsPage />
            </Shell>
          </Route>
          <Route>
            <Shell>
              <main className="p-8">
                <h1 className="mb-2 text-2xl font-semibold">There is nothing at this address</h1>
                <Link href="/" className="text-accent underline">
                  Go to your outings
                </Link>
              </main>
            </Shell>
          </Route>
        </Switch>
      </Notices>
    </QueryClientProvider>
  );
}

/** A page of its own script, between header and places. */
function InShell({ children }: { children: ReactNode }) {
  return (
    <Shell>
      <Suspense fallback={<p className="p-6">Opening…</p>}>{children}</Suspense>
    </Shell>
  );
}

/** Hears of what is changed elsewhere. */
function Listening() {
  useNews();
  useSending();
  return null;
}

/** What the night theme puts pictures through: their luminance, in dim red alone. */
function NightFilter() {
  return (
    <svg className="absolute h-0 w-0" aria-hidden="true">
      <filter id="long-wavelengths" colorInterpolationFilters="sRGB">
        <feColorMatrix values="0.12 0.36 0.04 0 0  0.012 0.036 0.004 0 0  0.006 0.018 0.002 0 0  0 0 0 1 0" />
      </filter>
    </svg>
  );
}
