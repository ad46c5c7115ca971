import { MakeItMine } from "./MakeItMine";
import { useState } from "react";

import { type SheetView as Sheet } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { useAfterFirstSight } from "../../ui/firstSight";
import { later } from "../../ui/later";
import { useSay } from "../../ui/Notices";
import { FramePanel, type FrameView } from "./frame/FramePanel";
import { GuessDialog } from "./frame/GuessDialog";
import { newSpot } from "./frame/spots";
import { usePicture } from "./frame/usePicture";
import { useAsks } from "./limits/useAsks";
import { EXPOSURE } from "./line/instruments";
import { useChosenLine } from "./line/useChosenLine";
import { useShownAfter } from "./line/useShownAfter";
import { Cautions } from "./slip/Cautions";
import { Slip } from "./slip/Slip";
import { SlipBar } from "./slip/SlipBar";
import { linesOf, slipSpoken, slipText } from "./slip/slipText";
import { useChosenPair } from "./useChosenPair";
import { useKey, useNumberKey } from "./useKey";
import { useNarrow } from "./useNarrow";
import type { Editor } from "./useSheetEditor";

const Instrument = later(() => import("./SheetRest").then((all) => all.Instrument));
const PrintCard = later(() => import("./SheetRest").then((all) => all.PrintCard));
const SheetParts = later(() => import("./SheetRest").then((all) => all.SheetParts));
const TakesStrip = later(() => import("./SheetRest").then((all) => all.TakesStrip));
const ToneRail = later(() => import("./SheetRest").then((all) => all.ToneRail));

/** Have all that is beside and below the picture at hand, so that it is drawn together with it. */
export const fetchRest = () =>
  Promise.all(
    [Instrument, PrintCard, SheetParts, TakesStrip, ToneRail].map((query) => query.fetch()),
  );

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
  const light = answer.picture;
  const narrow = useNarrow();
  // On a small screen the slip and the picture come first; what is below them follows.
  const isRest = useAfterFirstSight() || !narrow;
  const { spot: rules, instruments } = useAsks();
  const [frameView, setFrameView] = useState<FrameView>("read");
  const [dryDetails, setDryDetails] = useState<HTMLDivElement | null>(null);
  const picture = usePicture(editor, sheet, () => setSlipOpen(true));
  const { field, part: chosenPart, choose, open } = useChosenLine();
  const line = answer.lines.find((line) => line.field === field);
  const instrument = line?.instrument || (instruments[field] ?? EXPOSURE);
  // Until one is chosen: the part where something is to be done.
  const part = chosenPart ?? (light && light.missing.length === 0 ? "light" : "picture");
  const { pair, planned, byHand, steps, preview, commit } = useChosenPair(editor, sheet);
  const lines = linesOf(answer, pair, byHand);

  useKey("n", () => {
    if (!body.picture || !rules) return;
    const spot = newSpot(body, rules, { x: 0.5, y: 0.5 });
    edit("new spot", (b) => ({ ...b, spots: [...b.spots, spot] }));
    setSelected(spot.id);
    open("light");
  });
  const copy = () => {
    if (lines.length === 0) return;
    navigator.clipboard.writeText(slipText(body, answer, lines)).then(
      () => say("Slip copied."),
      () => say("This browser does not allow copying. Print the field card instead."),
    );
  };
  useKey("c", copy);
  useNumberKey((number) => {
    const numbered = lines[number - 1];
    if (numbered) choose(numbered.field);
  });

  const { target: instrumentPlace, show: showInstrument } = useShownAfter(slipOpen);
  const slip = (
    <Slip
      sheet={{
        id: sheet.id,
        version: sheet.version,
        outingId: sheet.outing_id,
        lightShift: body.light_shift_stops,
      }}
      {...{ answer, pair, byHand, edit }}
      onCopy={copy}
      chosen={field}
      onChoose={(next) => {
        choose(next);
        if (slipOpen) showInstrument();
        setSlipOpen(false);
      }}
    />
  );
  return (
    <>
      {[sheet.note, answer.phone_note, ...answer.corrections.map((correction) => correction.doubt)]
        .filter(Boolean)
        .map((note) => (
          <p
            key={note}
            role="status"
            className="no-print border-b border-line bg-accent-soft px-3 py-1.5 leading-snug"
          >
            {note}
            {note === answer.phone_note && <MakeItMine sheet={sheet} />}
          </p>
        ))}
      <main className="no-print grid min-h-0 flex-1 gap-2.5 p-2.5 max-[899px]:grid-cols-[minmax(0,1fr)] max-[899px]:pb-24 min-[900px]:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_18.5rem] min-[900px]:grid-rows-[minmax(0,1fr)_minmax(14.2rem,auto)]">
        {/* What is dangerous is seen before the slip is opened. */}
        {narrow && <Cautions cautions={answer.cautions} grave />}
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
              open(view === "dry" ? "dry" : "light");
            }}
            details={dryDetails}
            onUsualLight={() => open("light")}
            selected={selected}
            onSelect={(id) => {
              setSelected(id);
              if (id) open("light");
            }}
          />
          {isRest && <TakesStrip editor={editor} sheet={sheet} />}
          <section aria-label="Tone rail" className="rounded border border-line bg-panel px-2 py-1">
            {map && answer.tones && isRest ? (
              <ToneRail tones={answer.tones} map={map} pair={pair} />
            ) : (
              <p className="p-3 text-soft">The tone rail needs a reading.</p>
            )}
          </section>
        </div>
        {isRest && (
          <Instrument
            sheetId={sheet.id}
            ref={instrumentPlace}
            {...{ instrument, line, body, answer }}
            onChoose={choose}
            map={{ narrow, pair, planned, edit, onPreview: preview, onCommit: commit }}
          />
        )}
        <aside className="tag-edge min-h-0 overflow-y-auto max-[899px]:hidden min-[900px]:row-span-2">
          {slip}
        </aside>
        {isRest && (
          <SheetParts
            {...{ sheet, edit, picture, part, instrument, field, selected }}
            onPart={open}
            dry={frameView === "dry"}
            dryDetails={<div ref={setDryDetails} />}
            onSelect={setSelected}
          />
        )}
      </main>
      <SlipBar
        lines={lines}
        conflict={byHand ? undefined : plan?.conflict?.sentence}
        onOpen={() => setSlipOpen(true)}
        onFiles={picture.take}
      />
      <GuessDialog picture={picture} />
      <Dialog title="Slip" low open={slipOpen} onOpenChange={setSlipOpen}>
        {slip}
      </Dialog>
      <p className="sr-only" role="status">
        {slipSpoken(answer, pair, lines)}
      </p>
      {isRest && <PrintCard body={body} answer={answer} lines={lines} />}
    </>
  );
}
