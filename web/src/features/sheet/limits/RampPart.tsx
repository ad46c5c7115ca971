import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";

import { ask, type RampMeasured } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { sheetQuery, takesQuery } from "../queries";
import { AskField } from "./AskField";
import { withAt } from "./bodyPath";
import type { EditorProps } from "./LimitBoard";
import { rounded } from "../../../ui/numbers";

const RATE = ["frames", "ramp_stops_min"] as const;

/** How light changes over a series: given, or measured from the takes there are. */
export function RampPart({ body, edit }: Pick<EditorProps, "body" | "edit">) {
  const [place] = useLocation();
  const id = Number(place.split("/")[2]);
  const { data: takes = [] } = useQuery(takesQuery(id));
  const measure = useMutation({
    mutationFn: () =>
      ask<RampMeasured>(`/sheets/${id}/ramp`, {
        method: "POST",
        body: { takes: takes.slice(-60).map((take) => take.id) },
      }),
    onSuccess: ({ stops_min }) =>
      edit("light changes", (b) => withAt(b, RATE, rounded(stops_min, 3))),
  });
  const { data: sheet } = useQuery(sheetQuery(id));
  const [begun, setBegun] = useState("");
  const byHour = useMutation({
    mutationFn: () =>
      ask<RampMeasured>(`/outings/${sheet?.outing_id}/rate?at=${encodeURIComponent(begun)}`),
    onSuccess: ({ stops_min }) =>
      edit("light by the hour", (b) => withAt(b, RATE, rounded(stops_min, 3))),
  });
  return (
    <div className="flex flex-wrap items-end gap-3">
      <div className="w-56">
        <AskField {...{ body, edit, does: "frames" }} path={RATE} />
      </div>
      <Button disabled={takes.length < 2 || measure.isPending} onClick={() => measure.mutate()}>
        Measure from takes
      </Button>
      <label className="grid gap-0.5 text-[0.82rem] text-soft">
        Start time
        <input
          type="time"
          className="field w-auto"
          value={begun}
          onChange={(event) => setBegun(event.target.value)}
        />
      </label>
      <Button disabled={begun === "" || byHour.isPending} onClick={() => byHour.mutate()}>
        From the hour
      </Button>
      <p className="text-[0.9rem] text-soft" role="status">
        {measure.error?.message ??
          byHour.error?.message ??
          byHour.data?.words ??
          measure.data?.words ??
          "At dusk about −0.1 to −0.3. The checklist shows when to change what."}
      </p>
    </div>
  );
}
