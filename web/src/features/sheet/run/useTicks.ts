import { useCallback, useState } from "react";

const keyOf = (uid: string) => `oxlen-run-${uid}`;

function kept(uid: string): string[] {
  try {
    return JSON.parse(localStorage.getItem(keyOf(uid)) ?? "[]") as string[];
  } catch {
    return [];
  }
}

/** Which steps of a sheet's run are done; kept on this device until the run is begun anew. */
export function useTicks(uid: string): {
  done: ReadonlySet<string>;
  toggle: (id: string) => void;
  tickAll: (ids: readonly string[]) => void;
  clear: () => void;
} {
  const [done, setDone] = useState<ReadonlySet<string>>(() => new Set(kept(uid)));
  const keep = useCallback(
    (next: ReadonlySet<string>) => {
      setDone(next);
      localStorage.setItem(keyOf(uid), JSON.stringify([...next]));
    },
    [uid],
  );
  const toggle = (id: string) => {
    const next = new Set(done);
    if (!next.delete(id)) next.add(id);
    keep(next);
  };
  return {
    done,
    toggle,
    tickAll: (ids) => keep(new Set([...done, ...ids])),
    clear: () => keep(new Set()),
  };
}
