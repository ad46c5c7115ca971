import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { ask, type CardState } from "../../api/client";
import { ButtonLink } from "../../ui/ButtonLink";

const AGAIN_MS = 500;

interface Props {
  outingId: number;
  kind: "html" | "pdf";
  label: string;
  look?: "main";
}

/** A card of an outing: its sheets are planned first, with progress; then the file is downloaded. */
export function CardFile({ outingId, kind, label, look }: Props) {
  const [asked, setAsked] = useState(0);
  const of = `/outings/${outingId}/card`;
  const state = useQuery({
    queryKey: ["card", outingId, kind, asked],
    queryFn: () => ask<CardState>(`${of}?kind=${kind}`),
    enabled: asked > 0,
    retry: false,
    gcTime: 0,
    refetchInterval: ({ state }) => (state.data?.state === "working" ? AGAIN_MS : false),
  });
  const isDone = state.data?.state === "done";
  useEffect(() => {
    if (isDone) window.location.assign(`/api${of}.${kind}`); // an attachment: the page stays
  }, [isDone, asked, of, kind]);
  const isWorking = asked > 0 && !isDone && !state.isError;
  return (
    <div className="grid gap-1">
      <ButtonLink
        look={look}
        href={`/api${of}.${kind}`}
        aria-busy={isWorking}
        onClick={(event) => {
          event.preventDefault();
          if (!isWorking) setAsked(asked + 1);
        }}
      >
        {label}
      </ButtonLink>
      {isWorking && (
        <label className="grid text-[0.92rem] text-soft">
          {state.data ? `${state.data.done} of ${state.data.all} sheets` : "Planning the sheets"}
          <progress
            className="w-full accent-(--accent)"
            max={1}
            value={state.data ? state.data.done / Math.max(1, state.data.all) : undefined}
          />
        </label>
      )}
      {state.isError && <p role="alert">{state.error.message}</p>}
    </div>
  );
}
