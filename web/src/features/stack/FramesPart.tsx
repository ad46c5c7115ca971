import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type Stack, type Take } from "../../api/client";
import { Button } from "../../ui/Button";
import { DropZone, PickButton } from "../outings/DropZone";
import { TakingInBar } from "../takes/TakingInBar";
import { useTakingIn } from "../takes/useTakingIn";
import { addTakes, benchFrames } from "./queries";
import { fileSize } from "../../ui/numbers";

interface Props {
  set: Stack;
  onChange: (now: Promise<Stack>) => void;
}

/** The frames of a set: dropped, pasted, picked, or takes of its sheet. */
export function FramesPart({ set, onChange }: Props) {
  const { state, take, cancel, dismiss } = useTakingIn<Stack>({
    path: `/stacks/${set.id}/frames`,
  });
  const isBusy = set.state === "working";
  const again = () => onChange(ask<Stack>(`/stacks/${set.id}`));
  const takeAll = (files: File[]) => void take(files).then(again);
  return (
    <DropZone paste onFiles={takeAll} className="rounded border border-line bg-panel p-4">
      <section aria-label="Frames">
        <div className="flex flex-wrap items-center gap-2">
          <h2 className="mr-auto text-lg font-semibold">
            {set.frames === 0 ? "Frames" : `${set.frames} frames`}
            {set.frames > 0 && (
              <span className="ml-2 text-[0.93rem] font-normal text-soft tabular-nums">
                {fileSize(set.size_mb)}
              </span>
            )}
          </h2>
          {!isBusy && <PickButton text="Add files" onFiles={takeAll} />}
        </div>
        <TakingInBar state={state} onCancel={cancel} onDismiss={dismiss} />
        {set.frames === 0 && !state && (
          <p className="mt-1 text-soft">
            Drop 2 to 500 pictures of one kind here (JPEG, HEIF, TIFF or RAW).
          </p>
        )}
        {set.sheet_id !== null && !isBusy && (
          <FromTakes set={set} sheet={set.sheet_id} onChange={onChange} />
        )}
        {set.has_scene && !isBusy && <FromBench set={set} onChange={onChange} />}
        {set.frames > 0 && (
          <details>
            <summary className="min-h-11 cursor-pointer py-2">File names</summary>
            <ol className="max-h-56 columns-2 overflow-y-auto text-[0.9rem] text-soft">
              {set.names.map((name, place) => (
                <li key={`${name} ${place}`} className="truncate">
                  {name}
                </li>
              ))}
            </ol>
          </details>
        )}
      </section>
    </DropZone>
  );
}

const BENCH_FRAMES = 20;

function FromBench({ set, onChange }: Props) {
  const [isShooting, setShooting] = useState(false);
  const shoot = () => {
    setShooting(true);
    onChange(benchFrames(set.id, BENCH_FRAMES).finally(() => setShooting(false)));
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <Button disabled={isShooting} onClick={shoot}>
        {isShooting ? "Shooting…" : `Shoot ${BENCH_FRAMES} on bench`}
      </Button>
      {isShooting && <span className="text-soft">About 1 s each.</span>}
    </div>
  );
}

function FromTakes({ set, sheet, onChange }: Props & { sheet: number }) {
  const { data: takes = [] } = useQuery({
    queryKey: ["takes", "of", sheet],
    queryFn: () => ask<Take[]>(`/sheets/${sheet}/takes`),
  });
  const fit = takes.filter((take) => take.picture !== set.result_picture);
  const hasRaw = fit.some((take) => take.raw_picture);
  if (fit.length < 2) return null;
  const add = (raw: boolean) =>
    onChange(
      addTakes(
        set.id,
        fit.map((take) => take.id),
        raw,
      ),
    );
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      <Button onClick={() => add(false)}>Add the sheet’s {fit.length} takes</Button>
      {hasRaw && <Button onClick={() => add(true)}>Same as RAW</Button>}
    </div>
  );
}
