import { Tabs } from "radix-ui";
import { useMemo, useState } from "react";

import { type SheetView as Sheet } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { useSay } from "../../ui/Notices";
import { MapOrRuler } from "./MapOrRuler";
import { FramePanel, type FrameView } from "./FramePanel";
import { LensPart } from "./LensPart";
import { LightPart } from "./LightPart";
import { LimitBoard } from "./LimitBoard";
import { type Pair, pairAt, pairInForce } from "./mapModel";
import { PicturePart } from "./PicturePart";
import { PrintCard } from "./PrintCard";
import { Slip } from "./Slip";
import { SlipBar } from "./SlipBar";
import { linesOf, slipSpoken, slipText } from "./slipText";
import { newSpot } from "./spots";
import { ToneRail } from "./ToneRail";
import { pictureOf } from "./types";
import { usePicture } from "./usePicture";
import type { Editor } from "./useSheetEditor";
import { useKey } from "./useKey";
import { useNarrow } from "./useNarrow";
import { WaysPart } from "./WaysPart";

const PARTS = [
  { id: "picture", text: "Picture" },
  { id: "light", text: "Light" },
  { id: "time", text: "Time & gain" },
  { id: "lenses", text: "Lenses" },
  { id: "ways", text: "Ways" },
] as const;
const DRY_PART = { id: "dry", text: "Dry run" } as const;

interface Props {
  editor: Editor;
  sheet: Sheet;
  slipOpen: boolean;
  setSlipOpen: (open: boolean) => void;
}

/** Frame, tone rail, map and slip in one view, with the parts of the sheet below them. */
export function SheetView({ editor, sheet, slipOpen, setSlipOpen }: Props) {
  const { body, answer } = sheet;
  const { edit } = editor;
  const { map, plan } = answer;
  const say = useSay();
  const [selected, setSelected] = useState<string | null>(null);
  const [preview, setPreview] = useState<Pair | null>(null);
  const light = pictureOf(answer);
  const narrow = useNarrow();
  const [frameView, setFrameView] = useState<FrameView>("read");
  const [dryDetails, setDryDetails] = useState<HTMLDivElement | null>(null);
  const picture = usePicture(editor, sheet);
  const [chosenPart, setPart] = useState<string | null>(null);
  // Until one is chosen: the part where something is to be done.
  const part = chosenPart ?? (light && light.missing.length === 0 ? "light" : "picture");

  // What was chosen by hand stands until it is saved, so that keys may come faster than answers.
  const [wasSaving, setWasSaving] = useState(editor.saving);
  if (wasSaving !== editor.saving) {
    setWasSaving(editor.saving);
    if (!editor.saving) setPreview(null);
  }
  const settled = useMemo(() => pairInForce(answer, body), [answer, body]);
  const planned = map && plan?.slip ? pairAt(map, plan.slip.iso, plan.slip.shutter_s) : null;
  const pair = preview ?? settled;
  const byHand = preview !== null || body.held !== null;
  const lines = linesOf(answer, pair, byHand);

  const iso = pair && map?.isos[pair.row]?.value;
  const shutterS = pair && map?.shutters[pair.column]?.value_s;
  const steps = iso && shutterS ? { iso, shutterS } : null;
  const commit = (next: Pair | null) => {
    const same = next && planned && next.row === planned.row && next.column === planned.column;
    const heldIso = next && map?.isos[next.row]?.value;
    const shutter_s = next && map?.shutters[next.column]?.value_s;
    const held = heldIso && shutter_s && !same ? { iso: heldIso, shutter_s } : null;
    setPreview(held ? next : null);
    if (held || body.held) edit(held ? "steps by hand" : "back to plan", (b) => ({ ...b, held }));
  };
  useKey("n", () => {
    if (!body.picture) return;
    const spot = newSpot(body, { x: 0.5, y: 0.5 });
    edit("new spot", (b) => ({ ...b, spots: [...b.spots, spot] }));
    setSelected(spot.id);
    setPart("light");
  });
  const copy = () => {
    if (lines.length === 0) return;
    navigator.clipboard.writeText(slipText(body, answer, lines)).then(
      () => say("The slip is copied as text."),
      () => say("This browser does not allow copying; print the card instead."),
    );
  };
  useKey("c", copy);

  const slip = <Slip answer={answer} pair={pair} byHand={byHand} edit={edit} onCopy={copy} />;
  return (
    <>
      <main className="no-print grid min-h-0 flex-1 gap-2.5 p-2.5 max-[899px]:grid-cols-[minmax(0,1fr)] max-[899px]:pb-24 min-[900px]:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_18.5rem] min-[900px]:grid-rows-[minmax(0,1fr)_minmax(14.2rem,auto)]">
        <div className="flex min-h-0 flex-col gap-2">
          <FramePanel
            editor={editor}
            sheet={sheet}
            light={light}
            picture={picture}
            steps={byHand ? steps : null}
            view={frameView}
            onView={(view) => {
              setFrameView(view);
              setPart(view === "dry" ? "dry" : "light");
            }}
            details={dryDetails}
            selected={selected}
            onSelect={(id) => {
              setSelected(id);
              if (id) setPart("light");
            }}
          />
          <section aria-label="Tone rail" className="rounded border border-line bg-panel px-2 py-1">
            {map && pair && plan ? (
              <ToneRail
                readings={answer.readings}
                wantedEv100={plan.wanted_ev100}
                map={map}
                pair={pair}
              />
            ) : (
              <p className="p-3 text-soft">
                {answer.readings.length
                  ? "Tones appear here once a pair is open."
                  : "Tones appear here with the first reading."}
              </p>
            )}
          </section>
        </div>
        <section
          aria-label="Exposure map"
          className="min-h-0 rounded border border-line bg-panel p-1"
        >
          {map && plan ? (
            <MapOrRuler
              narrow={narrow}
              map={map}
              plan={plan}
              pair={pair}
              planned={planned}
              settings={answer.settings}
              edit={edit}
              onPreview={setPreview}
              onCommit={commit}
            />
          ) : (
            <p className="p-4 text-soft">{answer.why_no_plan}</p>
          )}
        </section>
        <aside className="tag-edge min-h-0 overflow-y-auto max-[899px]:hidden min-[900px]:row-span-2">
          {slip}
        </aside>
        <Tabs.Root
          value={part}
          onValueChange={setPart}
          className="flex min-h-0 flex-col rounded border border-line bg-panel min-[900px]:col-span-2 min-[900px]:max-h-[19rem]"
        >
          <Tabs.List
            aria-label="Parts of the sheet"
            className="flex overflow-x-auto border-b border-line px-2"
          >
            {(frameView === "dry" ? [...PARTS, DRY_PART] : PARTS).map((each) => (
              <Tabs.Trigger
                key={each.id}
                value={each.id}
                className="min-h-9 border-b-3 border-transparent px-4 whitespace-nowrap max-[899px]:min-h-11 max-[899px]:px-2.5 data-[state=active]:border-accent data-[state=active]:font-semibold"
              >
                {each.text}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <div className="min-h-0 flex-1 overflow-y-auto p-3">
            <Tabs.Content value="picture">
              <PicturePart body={body} light={light} onFiles={picture.take} edit={edit} />
            </Tabs.Content>
            <Tabs.Content value="light">
              <LightPart
                body={body}
                readings={answer.readings}
                settings={light?.report.settings ?? null}
                selected={selected}
                onSelect={setSelected}
                edit={edit}
              />
            </Tabs.Content>
            <Tabs.Content value="time">
              <LimitBoard body={body} answer={answer} edit={edit} />
            </Tabs.Content>
            <Tabs.Content value="lenses">
              <LensPart body={body} answer={answer} edit={edit} />
            </Tabs.Content>
            <Tabs.Content value="dry">
              <div ref={setDryDetails} />
            </Tabs.Content>
            <Tabs.Content value="ways">
              <WaysPart body={body} answer={answer} edit={edit} />
            </Tabs.Content>
          </div>
        </Tabs.Root>
      </main>
      <SlipBar lines={lines} conflict={plan?.conflict?.sentence} onOpen={() => setSlipOpen(true)} />
      <Dialog title="Slip" low open={slipOpen} onOpenChange={setSlipOpen}>
        {slip}
      </Dialog>
      <p className="sr-only" role="status">
        {slipSpoken(answer, pair, lines)}
      </p>
      <PrintCard body={body} answer={answer} lines={lines} />
    </>
  );
}
