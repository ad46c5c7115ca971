import { type ComponentType, lazy, type ReactNode, Suspense, useState } from "react";

import { firstSight } from "./firstSight";
import { PartBoundary } from "./PartBoundary";

type Load<P> = () => Promise<ComponentType<P>>;

/** A component that comes by its own script; `fetch` has it ready before it is first shown. */
export type LaterPart<P> = ComponentType<P> & { fetch: () => Promise<unknown> };

/** A component whose script is fetched once the page is at rest, or when it is first shown. */
export function later<P extends object>(load: Load<P>): LaterPart<P> {
  const part = page(load, null);
  atRest(part.fetch);
  return part;
}

/** A component whose script is fetched only when it is first shown, or asked to be at hand. */
export function page<P extends object>(load: Load<P>, waiting: ReactNode): LaterPart<P> {
  let ready: ComponentType<P> | null = null;
  const fetch = () => load().then((part) => (ready = part));
  const Part = lazy(() => fetch().then((part) => ({ default: part as ComponentType<object> })));
  function Later(props: P) {
    // At hand when it is first shown, it is shown at once: whatever waits is held back a third of a
    // second by React before it is on the page. Which of both it is stays, or it would begin anew.
    const [Ready] = useState(() => ready);
    return (
      <PartBoundary>
        {Ready ? (
          <Ready {...props} />
        ) : (
          <Suspense fallback={waiting}>
            <Part {...props} />
          </Suspense>
        )}
      </PartBoundary>
    );
  }
  return Object.assign(Later, { fetch });
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
