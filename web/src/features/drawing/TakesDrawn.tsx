import { useQuery } from "@tanstack/react-query";

import { ask, type LampDrawingSeen } from "../../api/client";
import { takesQuery } from "../sheet/queries";

/** Last take of the drawing, looked over: what to change first. */
export function TakesDrawn({ id }: { id: number }) {
  const { data: takes = [] } = useQuery(takesQuery(id));
  const last = takes.at(-1);
  const { data: seen } = useQuery({
    queryKey: ["drawing-seen", last?.id],
    queryFn: () => ask<LampDrawingSeen>(`/takes/${last?.id}/drawing`),
    enabled: last !== undefined,
    retry: false,
  });
  if (!seen) return null;
  return (
    <section aria-label="Last take" className="rounded border border-line bg-panel p-4">
      <h2 className="text-lg font-semibold">Last take</h2>
      <p className="text-soft tabular-nums">
        Background {seen.ground}, line {seen.line}
      </p>
      <ol className="mt-1 grid list-decimal gap-1 pl-5">
        {seen.words.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ol>
    </section>
  );
}
