import { useEffect, useRef } from "react";

const MARK = "oxlen-dialog";

/** While something is open, the browser's Back closes it instead of leaving the page. */
export function useBackCloses(open: boolean, close: () => void) {
  const latest = useRef(close);
  useEffect(() => {
    latest.current = close;
  });
  useEffect(() => {
    if (!open) return undefined;
    window.history.pushState({ [MARK]: true }, "");
    let gone = false;
    const onBack = () => {
      gone = true;
      latest.current();
    };
    window.addEventListener("popstate", onBack);
    return () => {
      window.removeEventListener("popstate", onBack);
      // Closed otherwise: its own entry is taken back, unless the address has moved on from it.
      const state = window.history.state as Record<string, unknown> | null;
      if (!gone && state?.[MARK]) window.history.back();
    };
  }, [open]);
}
