import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal } from "../../api/client";
import type { Camera } from "../../phone/camera/camera";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { NumberField } from "../../ui/Field";
import { type Aim, findFocus, keepFocus } from "./focusing";

interface Props {
  camera: Camera;
  cameraKey: string;
  /** The chosen spot, else the middle. */
  aim: Aim;
}

/** A focus ladder without files: where the chosen spot is sharpest, kept for its distance. */
export function FocusPart({ camera, cameraKey, aim }: Props) {
  const client = useQueryClient();
  const [step, setStep] = useState("");
  const [isFar, setIsFar] = useState(false);
  const [distance, setDistance] = useState<number | null>(null);
  const find = useMutation({
    mutationFn: () => findFocus(camera, aim, (at, of) => setStep(`Step ${at} of ${of}`)),
    onSettled: () => setStep(""),
  });
  const found = find.data?.value ?? null;
  const keep = useMutation({
    mutationFn: () => keepFocus(cameraKey, isFar ? null : distance, found ?? 0),
    onSuccess: () => client.invalidateQueries({ queryKey: ["cameras"] }),
  });
  const failed = find.error ?? keep.error;
  if (!camera.can.focus_dioptres?.can_set) return null;
  return (
    <section aria-label="Focus" className="rounded border border-line bg-panel p-3">
      <p className="text-[0.95rem]">
        {find.data
          ? `${find.data.words} In dioptres.`
          : "Rest the phone. Oxlen finds where the chosen spot is sharpest."}
      </p>
      {failed && (
        <p role="alert">
          {failed instanceof Refusal ? failed.message : "The focus was not found. Try again."}
        </p>
      )}
      {found !== null && (
        <div className="mt-2 flex flex-wrap items-end gap-3">
          {!isFar && (
            <div className="w-32">
              <NumberField
                label="Spot’s distance"
                unit="m"
                value={distance}
                low={0.01}
                high={10000}
                onCommit={setDistance}
              />
            </div>
          )}
          <CheckField label="Infinity" checked={isFar} onChange={setIsFar} />
          <Button
            className="min-h-11"
            disabled={keep.isPending || (!isFar && distance === null)}
            onClick={() => keep.mutate()}
          >
            Keep focus
          </Button>
        </div>
      )}
      {keep.data && <p role="status">{keep.data.focus_words}</p>}
      <Button
        className="mt-2 min-h-11"
        disabled={find.isPending}
        onClick={() => {
          keep.reset();
          find.mutate();
        }}
      >
        {step || "Find focus"}
      </Button>
    </section>
  );
}
