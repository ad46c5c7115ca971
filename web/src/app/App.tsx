import { notifyManager, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Link, Redirect, Route, Switch } from "wouter";

import { Refusal } from "../api/client";
import { later, page } from "../ui/later";
import { Notices } from "../ui/Notices";
import { useSending } from "../features/sheet/takes/useSending";
import { useChangeEvents } from "../api/changeEvents";
import { forgetHere } from "../offline/offline";
import { OfflineBar } from "./OfflineBar";
import { NightFilter } from "./NightFilter";
import { Shell } from "../shell/Shell";
import { SkipLink } from "./SkipLink";
import { useFocusKept } from "./useFocusKept";
import { useFocusOnHeading } from "./useFocusOnHeading";

const WAITING = <p className="p-6">Opening…</p>;

const SheetPage = later(() => import("../features/sheet/SheetPage").then((all) => all.SheetPage));
const LivePage = page(
  () => import("../features/live/LivePage").then((all) => all.LivePage),
  WAITING,
);
const RunPage = later(() => import("../features/sheet/run/RunPage").then((all) => all.RunPage));
const OutingsPage = later(() =>
  import("../features/outings/OutingsPage").then((all) => all.OutingsPage),
);
const PlacesPage = page(
  () => import("../features/places/PlacesPage").then((all) => all.PlacesPage),
  WAITING,
);
const PlacePage = page(
  () => import("../features/places/PlacePage").then((all) => all.PlacePage),
  WAITING,
);
const OutingLightPage = page(
  () => import("../features/lightPlan/OutingLightPage").then((all) => all.OutingLightPage),
  WAITING,
);
const KitPage = page(() => import("../features/kit/KitPage").then((all) => all.KitPage), WAITING);
const PhoneMaker = page(
  () => import("../features/phone/PhoneMaker").then((all) => all.PhoneMaker),
  WAITING,
);
const TakesPage = page(
  () => import("../features/takes/TakesPage").then((all) => all.TakesPage),
  WAITING,
);
const LearnedPage = page(
  () => import("../features/takes/LearnedPage").then((all) => all.LearnedPage),
  WAITING,
);
const DrawingPage = page(
  () => import("../features/drawing/DrawingPage").then((all) => all.DrawingPage),
  WAITING,
);
const ExposuresPage = page(
  () => import("../features/exposures/ExposuresPage").then((all) => all.ExposuresPage),
  WAITING,
);
const ShopPage = page(
  () => import("../features/shop/ShopPage").then((all) => all.ShopPage),
  WAITING,
);
const TimePage = page(
  () => import("../features/time/TimePage").then((all) => all.TimePage),
  WAITING,
);
const StacksPage = page(
  () => import("../features/stack/StacksPage").then((all) => all.StacksPage),
  WAITING,
);
const StackPage = page(
  () => import("../features/stack/StackPage").then((all) => all.StackPage),
  WAITING,
);
const ComparePage = page(
  () => import("../features/takes/ComparePage").then((all) => all.ComparePage),
  WAITING,
);
const BeginPage = page(
  () => import("../features/begin/BeginPage").then((all) => all.BeginPage),
  WAITING,
);
const WordsPage = page(
  () => import("../features/help/WordsPage").then((all) => all.WordsPage),
  WAITING,
);
const GuidePage = page(
  () => import("../features/help/GuidePage").then((all) => all.GuidePage),
  WAITING,
);
const NetworkPage = page(
  () => import("../features/network/NetworkPage").then((all) => all.NetworkPage),
  WAITING,
);
const PairPage = page(
  () => import("../features/network/PairPage").then((all) => all.PairPage),
  WAITING,
);

/** A phone that is not paired, or no longer, goes to where it can be. */
function toTheDoor(error: Error) {
  const code = error instanceof Refusal ? error.problem.code : "";
  if (window.location.pathname === "/pair") return;
  if (code === "not-confirmed") window.location.assign("/pair");
  if (code !== "not-paired") return;
  void forgetHere().finally(() => window.location.assign("/pair"));
}

// An edit is drawn in the event that made it. By the default a timer passes in between, and a box
// just ticked is seen unticked until then.
notifyManager.setScheduler(queueMicrotask);

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

const OPENINGS: [RegExp, () => Promise<unknown>][] = [
  [/^\/$/, OutingsPage.fetch],
  [/^\/sheets\/\d+$/, SheetPage.fetch],
  [/^\/sheets\/\d+\/run$/, RunPage.fetch],
  [/^\/takes$/, () => Promise.all([TakesPage.fetch(), firstTakes()])],
];

/** The part that draws the page at an address, at hand before anything is drawn. */
export const opening = (path: string): Promise<unknown> =>
  OPENINGS.find(([of]) => of.test(path))?.[1]() ?? Promise.resolve();

/** The logbook's first takes, so that the page is drawn once, with them. */
async function firstTakes() {
  const { logbookQuery, lookedIn } = await import("../features/takes/queries");
  await client.prefetchInfiniteQuery(logbookQuery(lookedIn(window.location.search)));
}

/** The whole app. */
export function App() {
  useFocusKept();
  useFocusOnHeading();
  return (
    <QueryClientProvider client={client}>
      <NightFilter />
      <SkipLink />
      <OfflineBar />
      <Notices>
        <Listening />
        <Switch>
          <Route path="/sheets/:id">{({ id }) => <SheetPage key={id} id={Number(id)} />}</Route>
          <Route path="/sheets/:id/run">{({ id }) => <RunPage key={id} id={Number(id)} />}</Route>
          <Route path="/sheets/:id/live">{({ id }) => <LivePage key={id} id={Number(id)} />}</Route>
          <Route path="/sheets/:id/drawing">
            {({ id }) => (
              <Shell>
                <DrawingPage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/sheets/:id/exposures">
            {({ id }) => (
              <Shell>
                <ExposuresPage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/sheets/:id/shop">
            {({ id }) => (
              <Shell>
                <ShopPage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/sheets/:id/time">
            {({ id }) => (
              <Shell>
                <TimePage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/places">
            <Shell>
              <PlacesPage />
            </Shell>
          </Route>
          <Route path="/places/:id">
            {({ id }) => (
              <Shell>
                <PlacePage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/outings/:id/light">
            {({ id }) => (
              <Shell>
                <OutingLightPage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/kit/new">
            <Shell>
              <PhoneMaker />
            </Shell>
          </Route>
          <Route path="/kit">
            <Shell>
              <KitPage />
            </Shell>
          </Route>
          <Route path="/takes">
            <Shell>
              <TakesPage />
            </Shell>
          </Route>
          <Route path="/takes/learned">
            <Shell>
              <LearnedPage />
            </Shell>
          </Route>
          <Route path="/takes/stacks">
            <Shell>
              <StacksPage />
            </Shell>
          </Route>
          <Route path="/takes/stacks/:id">
            {({ id }) => (
              <Shell>
                <StackPage key={id} id={Number(id)} />
              </Shell>
            )}
          </Route>
          <Route path="/takes/together">
            <Redirect to="/takes/stacks" replace />
          </Route>
          <Route path="/takes/compare">
            <Shell>
              <ComparePage />
            </Shell>
          </Route>
          <Route path="/begin">
            <Shell>
              <BeginPage />
            </Shell>
          </Route>
          <Route path="/phone">
            <Shell>
              <NetworkPage />
            </Shell>
          </Route>
          <Route path="/pair">
            <PairPage />
          </Route>
          <Route path="/guide/:id">
            {({ id }) => (
              <Shell>
                <GuidePage id={id} />
              </Shell>
            )}
          </Route>
          <Route path="/words">
            <Shell>
              <WordsPage />
            </Shell>
          </Route>
          <Route path="/">
            <Shell>
              <OutingsPage />
            </Shell>
          </Route>
          <Route>
            <Shell>
              <main className="p-8">
                <h1 className="mb-2 text-2xl font-semibold">Page not found</h1>
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

/** Hears of what is changed elsewhere. */
function Listening() {
  useChangeEvents();
  useSending();
  return null;
}
