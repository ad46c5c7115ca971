import { useEffect, useRef } from "react";

import { isSingleKey } from "../../ui/keys";

/** Run something on a key, unless one is typing or holds a modifier. */
export function useKey(key: string, run: () => void) {
  useAnyKey((pressed) => pressed === key && run());
}

/** Run something with the number of a number key, 1 to 9. */
export function useNumberKey(run: (number: number) => void) {
  useAnyKey((pressed) => /^[1-9]$/.test(pressed) && run(Number(pressed)));
}

function useAnyKey(run: (key: string) => unknown) {
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isSingleKey(event)) latest.current(event.key);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
