import { type QueryKey, useQueryClient } from "@tanstack/react-query";

import { useSay } from "../../ui/Notices";

/** Looks again once something is kept or dropped; says why where it was not. */
export function useKept(queryKey: QueryKey): (kept: Promise<unknown>) => void {
  const client = useQueryClient();
  const say = useSay();
  return (kept) =>
    void kept.then(
      () => client.invalidateQueries({ queryKey }),
      (error: unknown) => say(error instanceof Error ? error.message : String(error)),
    );
}
