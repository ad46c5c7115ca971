import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";

import { ask, type OutingView, type Preset, Refusal, type SheetView } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { useSay } from "../../ui/Notices";
import { DropZone, PickButton } from "../outings/DropZone";
import { ImportList } from "../outings/ImportList";
import { useCamera } from "../outings/useCamera";
import { useNewSheets } from "../outings/useNewSheets";
import { presetsQuery } from "../sheet/queries";
import { addOuting } from "../outings/queries";

/** The outing that is meant, else the newest, else a first one. */
async function outingFor(outing: string | null): Promise<string> {
  if (outing) return outing;
  const [newest] = await ask<OutingView[]>("/outings?most=1&words=");
  const found = newest ?? (await addOuting({ title: "First outing", place: "", light_window: "" }));
  return String(found.id);
}

/** Pictures as new sheets of the outing that is meant. */
function usePicturesOf(outing: string | null, onSheet: (id: number) => void) {
  const pathFor = () => outingFor(outing).then((id) => `/outings/${id}/pictures`);
  return useNewSheets(pathFor, outing ? { id: Number(outing), uid: null } : null, onSheet);
}

/** On a phone the first way in: its own camera. */
export function TakePicture({ outing }: { outing: string | null }) {
  const [, go] = useLocation();
  const { incoming, take, cancel, dismiss } = usePicturesOf(outing, (id) => go(`/sheets/${id}`));
  const camera = useCamera(take);
  if (!camera.take) return null;
  return (
    <div className="mb-4">
      {camera.input}
      <Button look="main" className="min-h-14 w-full text-lg" onClick={camera.take}>
        Take a picture
      </Button>
      <ImportList incoming={incoming} onCancel={cancel} onDismiss={dismiss} />
    </div>
  );
}

/** The other ways in: a picture of the scene, the numbers on the phone's screen, a preset. */
export function OtherDoors({ outing }: { outing: string | null }) {
  const [, go] = useLocation();
  const say = useSay();
  const home = () => outingFor(outing);
  const complain = (error: unknown) => {
    if (error instanceof Refusal) say(error.message);
  };
  const plain = (part: string, body: object = { title: "Untitled sheet" }) =>
    home()
      .then((id) => ask<SheetView>(`/outings/${id}/sheets`, { method: "POST", body }))
      .then((sheet) => go(`/sheets/${sheet.id}${part}`), complain);
  return (
    <section
      aria-label="Other ways to begin"
      className="mt-4 grid gap-2.5 sm:grid-cols-2 lg:grid-cols-4"
    >
      <PictureDoor outing={outing} onSheet={(id) => go(`/sheets/${id}`)} />
      <Door
        title="Your phone shows numbers"
        words="Type the ISO and shutter shown on auto, or a meter's EV."
      >
        <Button onClick={() => void plain("?part=light")}>Enter numbers</Button>
      </Door>
      <PresetDoor
        onUse={(preset) =>
          void plain("?part=light", { ...preset.choices, title: preset.name, intent: preset.note })
        }
      />
      <Door title="Start empty" words="An empty sheet with the usual settings.">
        <Button onClick={() => void plain("")}>Empty sheet</Button>
      </Door>
    </section>
  );
}

function PresetDoor({ onUse }: { onUse: (preset: Preset) => void }) {
  const { data: presets = [] } = useQuery(presetsQuery);
  const [id, setId] = useState("");
  const chosen = presets.find((view) => view.preset.id === id)?.preset ?? presets[0]?.preset;
  return (
    <Door title="A preset" words="Choices that worked before, in another light.">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-2">
        <Select
          label="Preset"
          hideLabel
          value={chosen?.id ?? ""}
          options={presets.map(({ preset }) => ({ value: preset.id, text: preset.name }))}
          onChange={setId}
        />
        <Button disabled={!chosen} onClick={() => chosen && onUse(chosen)}>
          Use preset
        </Button>
      </div>
    </Door>
  );
}

interface PictureProps {
  outing: string | null;
  onSheet: (id: number) => void;
}

function PictureDoor({ outing, onSheet }: PictureProps) {
  const { incoming, take, cancel, dismiss } = usePicturesOf(outing, onSheet);
  return (
    <DropZone paste onFiles={take} className="rounded">
      <Door title="You have a picture" words="Drop a picture taken on auto here, or choose one.">
        <PickButton text="Choose a picture" onFiles={take} />
      </Door>
      <ImportList incoming={incoming} onCancel={cancel} onDismiss={dismiss} />
    </DropZone>
  );
}

function Door(props: { title: string; words: string; children: React.ReactNode }) {
  return (
    <div className="grid h-full content-between gap-2 rounded border border-line bg-panel p-3">
      <div>
        <h2 className="font-semibold">{props.title}</h2>
        <p className="leading-snug text-soft">{props.words}</p>
      </div>
      <div>{props.children}</div>
    </div>
  );
}
