import { useLocation } from "wouter";

import { ask, type OutingView, Refusal, type SheetView } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { DropZone, PickButton } from "../outings/DropZone";
import { ImportList } from "../outings/ImportList";
import { useImport } from "../outings/useImport";
import { addOuting } from "../outings/queries";

/** The other ways in: a picture of the scene, the numbers on the phone's screen, a plain sheet. */
export function OtherDoors({ outing }: { outing: string | null }) {
  const [, go] = useLocation();
  const say = useSay();
  const home = async () => {
    if (outing) return outing;
    const [newest] = await ask<OutingView[]>("/outings?most=1&words=");
    const found =
      newest ?? (await addOuting({ title: "First outing", place: "", light_window: "" }));
    return String(found.id);
  };
  const complain = (error: unknown) => {
    if (error instanceof Refusal) say(error.message);
  };
  const plain = (part: string) =>
    home()
      .then((id) =>
        ask<SheetView>(`/outings/${id}/sheets`, {
          method: "POST",
          body: { title: "Untitled sheet" },
        }),
      )
      .then((sheet) => go(`/sheets/${sheet.id}${part}`), complain);
  return (
    <section aria-label="Other ways to begin" className="mt-6 grid gap-3 md:grid-cols-3">
      <PictureDoor home={home} onSheet={(id) => go(`/sheets/${id}`)} />
      <Door
        title="Your phone shows numbers"
        words="Type the ISO and shutter shown on auto, or a meter's EV."
      >
        <Button onClick={() => void plain("?part=light")}>Enter numbers</Button>
      </Door>
      <Door title="Start empty" words="An empty sheet with the usual settings.">
        <Button onClick={() => void plain("")}>Empty sheet</Button>
      </Door>
    </section>
  );
}

interface PictureProps {
  home: () => Promise<string>;
  onSheet: (id: number) => void;
}

function PictureDoor({ home, onSheet }: PictureProps) {
  const { incoming, take, cancel, dismiss } = useImport(() =>
    home().then((id) => `/outings/${id}/pictures`),
  );
  const takeAll = async (files: File[]) => {
    const finished = await take(files);
    const sheet = finished.find((one) => one.taken)?.taken?.sheet;
    if (sheet) onSheet(sheet.id);
  };
  return (
    <DropZone paste onFiles={(files) => void takeAll(files)} className="rounded">
      <Door title="You have a picture" words="Drop a picture taken on auto here, or choose one.">
        <PickButton text="Choose a picture" onFiles={(files) => void takeAll(files)} />
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
