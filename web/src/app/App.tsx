import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Link, Route, Switch } from "wouter";

import { Refusal } from "../api/client";
import { OutingsPage } from "../features/outings/OutingsPage";
import { SheetPage } from "../features/sheet/SheetPage";
import { Notices } from "../ui/Notices";
import { Shell } from "./Shell";
import { useFocusKept } from "./useFocusKept";

const KitPage = lazy(() =>
  import("../features/kit/KitPage").then((module) => ({ default: module.KitPage })),
);

const BeginPage = lazy(() =>
  import("../features/begin/BeginPage").then((module) => ({ default: module.BeginPage })),
);

const WordsPage = lazy(() =>
  import("../features/help/WordsPage").then((module) => ({ default: module.WordsPage })),
);

const client = new QueryClient({
  defaultOptions: {
    queries: {
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
      <Notices>
        <Switch>
          <Route path="/sheets/:id">{({ id }) => <SheetPage key={id} id={Number(id)} />}</Route>
          <Route path="/kit">
            <Shell>
              <Suspense fallback={<p className="p-6">Opening the kit…</p>}>
                <KitPage />
              </Suspense>
            </Shell>
          </Route>
          <Route path="/begin">
            <Shell>
              <Suspense fallback={<p className="p-6">Opening…</p>}>
                <BeginPage />
              </Suspense>
            </Shell>
          </Route>
          <Route path="/words">
            <Shell>
              <Suspense fallback={<p className="p-6">Opening…</p>}>
                <WordsPage />
              </Suspense>
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
