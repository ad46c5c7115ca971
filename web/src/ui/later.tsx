import { type ComponentType, lazy, Suspense, useState } from "react";

import { firstSight } from "./firstSight";
import { PartBoundary } from "./PartBoundary";

type Load<P> = () => Promise<ComponentType<P>>;

/** A component whose script is fetched once the page is at rest, or when it is first shown. */
export function later<P extends object>(load: Load<P>): ComponentType<P> {
  const Part = lazy(() => load().then((part) => ({ default: part as ComponentType<object> })));
  atRest(load);
  return function Later(props: P) {
    return (
      <PartBoundary>
        <Suspense fallback={null}>
          <Part {...props} />
        </Suspense>
      </PartBoundary>
    );
  };
}

/** The same for a dialog: it is first shown when it is first opened. */
export function laterDialog<P extends { open: boolean }>(load: Load<P>): ComponentType<P> {
  const Part = later(load);
  return function LaterDialog(props: P) {
    const [wasOpen, setWasOpen] = useState(props.open);
    if (props.open && !wasOpen) setWasOpen(true);
    return wasOpen ? <Part {...props} /> : null;
  };
}

function atRest(load: () => Promise<unknown>) {
  const fetchIt = () => void load().catch(() => undefined); // asked for again when it is shown
  void firstSight.then(() => {
    if ("requestIdleCallback" in window) window.requestIdleCallback(fetchIt, { timeout: 5000 });
    else globalThis.setTimeout(fetchIt, 1000);
  });
}
