import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ask, Refusal } from "../../api/client";
import type { Camera } from "../../phone/camera/camera";
import { Button } from "../../ui/Button";
import { fixed } from "../../ui/numbers";
import { inBase64, type KnownCamera } from "./queries";

const STEPS = 11;
const FRAME_PX = 160;

interface Props {
  camera: Camera;
  cameraKey: string;
}

/** The preview's tone curve, measured by stepping the shutter on a still scene: about a minute. */
export function CurvePart({ camera, cameraKey }: Props) {
  const client = useQueryClient();
  const [step, setStep] = useState(0);
  const dial = camera.can.shutter_s;
  const measure = useMutation({
    mutationFn: async () => {
      const steps = [];
      const [low, high] = [Math.max(dial?.low ?? 0, 1e-5), dial?.high ?? 0];
      for (let k = 0; k < STEPS; k += 1) {
        setStep(k + 1);
        const wanted = low * (high / low) ** (k / (STEPS - 1));
        await camera.set({ shutter_s: wanted, iso: null, white_k: null, focus_dioptres: null });
        const frame = await inBase64(await camera.frame(FRAME_PX));
        const set = camera.settings();
        // What was really set counts, not what was asked for.
        steps.push({ shutter_s: set.shutter_s ?? wanted, iso: set.iso ?? 100, frame });
      }
      await camera.onAuto();
      return ask<KnownCamera>(`/cameras/${cameraKey}/curve`, { method: "POST", body: { steps } });
    },
    onSettled: () => {
      setStep(0);
      void client.invalidateQueries({ queryKey: ["cameras"] });
    },
  });
  if (!dial?.can_set) return null;
  const found = measure.data?.curve_plus_minus_stops;
  return (
    <section aria-label="Preview curve" className="rounded border border-line bg-panel p-3">
      <p className="text-[0.95rem]">
        {found == null
          ? "Measure the preview’s tones: rest the phone, point at light and dark, hold still."
          : `Measured: ± ${fixed(found, 2)} stop. Light is read by it from now on.`}
      </p>
      {measure.error && (
        <p role="alert">
          {measure.error instanceof Refusal ? measure.error.message : "The frames were not read."}
        </p>
      )}
      <Button
        className="mt-2 min-h-11"
        disabled={measure.isPending}
        onClick={() => measure.mutate()}
      >
        {measure.isPending ? `Step ${step} of ${STEPS}` : "Measure curve"}
      </Button>
    </section>
  );
}
