import { useEffect, useRef, useState } from "react";

import { Refusal } from "../../api/client";
import type { Camera } from "../../phone/camera/camera";
import { NumberField } from "../../ui/Field";
import { type KnownLight, lightOfPicture, type LiveView } from "./queries";

const TICK_MS = 5000;
const TYPED_STOPS = 0.3;

interface Props {
  sheetId: number;
  camera: Camera;
  view: LiveView | null;
  known: KnownLight | null;
  onKnown: (known: KnownLight | null) => void;
}

/** Where the browser does not tell the exposure: the light of this view, once, as it is known. */
export function KnownLightPart({ sheetId, camera, view, known, onKnown }: Props) {
  const since = useRef(0);
  const [trouble, setTrouble] = useState("");
  const read = (file: File) => {
    setTrouble("");
    lightOfPicture(sheetId, file)
      .then((light) => {
        since.current = Date.now();
        onKnown(light);
      })
      .catch((error: unknown) =>
        setTrouble(error instanceof Refusal ? error.message : "The picture was not read."),
      );
  };
  useEffect(() => {
    if (!known) return undefined;
    const timer = window.setInterval(
      () => onKnown({ ...known, age_s: (Date.now() - since.current) / 1000 }),
      TICK_MS,
    );
    return () => window.clearInterval(timer);
  }, [known, onKnown]);
  if (!view || (camera.can.shutter_s && camera.can.iso)) return null;
  return (
    <section
      aria-label="Known light"
      className="flex flex-wrap items-end gap-3 rounded border border-line bg-panel p-3"
    >
      <div className="w-32">
        <NumberField
          label="Light here"
          unit="EV"
          value={known?.ev100 ?? null}
          low={-12}
          high={24}
          onCommit={(ev100) => {
            since.current = Date.now();
            onKnown(ev100 === null ? null : { ev100, plus_minus_stops: TYPED_STOPS, age_s: 0 });
          }}
        />
      </div>
      <p className="min-w-40 flex-1 text-[0.9rem] text-soft">
        {known
          ? `Known ${Math.round(known.age_s / 60)} min ago. Its ± grows with time.`
          : "Take a picture of this view with the camera app, or enter its light. It counts for half an hour."}
      </p>
      <label className="inline-flex min-h-11 cursor-pointer items-center rounded border border-strong bg-raised px-3 focus-within:outline-3">
        From a picture
        <input
          type="file"
          accept="image/*,.dng"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) read(file);
          }}
        />
      </label>
      {trouble && (
        <p role="alert" className="w-full">
          {trouble}
        </p>
      )}
    </section>
  );
}
