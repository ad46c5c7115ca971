import { useMutation, useQueryClient } from "@tanstack/react-query";

import { useSay } from "../../../ui/Notices";
import { refreshSeries } from "./queries";

/** Run a change of a series, refresh what shows it, and say what was done. */
export function useSeries(): {
  isBusy: boolean;
  run: (change: () => Promise<unknown>, done: string, after?: () => void) => void;
} {
  const client = useQueryClient();
  const say = useSay();
  const change = useMutation({
    mutationFn: async (asked: {
      change: () => Promise<unknown>;
      done: string;
      after?: () => void;
    }) => {
      await asked.change();
      await refreshSeries(client);
      return asked;
    },
    onSuccess: ({ done, after }) => {
      say(done);
      after?.();
    },
    onError: (problem) => say(problem.message),
  });
  return {
    isBusy: change.isPending,
    run: (asked, done, after) => change.mutate({ change: asked, done, ...(after && { after }) }),
  };
}
