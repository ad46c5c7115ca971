import { lazy, Suspense } from "react";
import { Link } from "wouter";

import type { LightReading, PictureLight, SheetView } from "../../../api/client";
import { ev, fixed } from "../../../ui/numbers";
import { Button, LOOKS, SHAPE } from "../../../ui/Button";
import { Segmented } from "../../../ui/Segmented";
import { CameraButton, DropZone, PickButton } from "../../outings/DropZone";
import { ImportList } from "../../outings/ImportList";
import { AddSpot } from "./AddSpot";
import { Frame } from "./Frame";
import type { PictureImport } from "./usePicture";
import { WaitingReading } from "./WaitingReading";
import type { Editor } from "../useSheetEditor";
import { type Size, useSize } from "../useSize";

const MARGIN_PX = 12;
// Only fetched when it is looked at: most sheets are read first.
const DryRun = lazy(() =>
  import("../preview/DryRun").then((module) => ({ default: module.DryRun })),
);
export type FrameView = "read" | "dry" | "sharp";
const SharpView = lazy(() =>
  import("../focus/SharpView").then((module) => ({ default: module.SharpView })),
);
const VIEWS = [
  { value: "read", text: "Read the light" },
  { value: "dry", text: "Dry run" },
  { value: "sharp", text: "Where sharp" },
] as const;

interface Props {
  editor: Editor;
  sheet: SheetView;
  light: PictureLight | null;
  picture: PictureImport;
  selected: string | null;
  onSelect: (id: string | null) => void;
  /** The steps in force, for the dry run. */
  steps: { iso: number; shutterS: number } | null;
  view: FrameView;
  onView: (view: FrameView) => void;
  details: HTMLElement | null;
  /** Opens where light is given without a picture. */
  onUsualLight: () => void;
}

/** The frame on its mid-grey surround; takes pictures, the first for this sheet, more as new ones. */
export function FramePanel(props: Props) {
  const { editor, sheet, light, picture, selected, onSelect, steps, view, onView, details } = props;
  const { onUsualLight } = props;
  const { body, answer } = sheet;
  const [panel, room] = useSize<HTMLDivElement>({ width: 480, height: 360 });
  const { incoming, take, cancel, dismiss, sendWhole } = picture;
  const shown = light && sizeShown(light);
  return (
    <DropZone
      paste
      onFiles={take}
      className={`surround flex min-h-0 flex-1 flex-col rounded max-[899px]:flex-none ${view === "dry" ? "max-[899px]:h-108" : "max-[899px]:h-84"}`}
    >
      {answer.plan && shown && (
        <div className="mt-1.5 flex w-full items-center justify-center gap-2 px-3 text-ink max-[899px]:flex-wrap">
          <div className="min-w-0 max-w-84 grow basis-56">
            <Segmented small label="Picture view" value={view} options={VIEWS} onChange={onView} />
          </div>
          {view === "read" && <AddSpot body={body} onSelect={onSelect} edit={editor.edit} />}
        </div>
      )}
      <div
        ref={panel}
        className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] place-items-center overflow-hidden"
      >
        {view === "dry" && shown && answer.plan ? (
          <Suspense fallback={<p>Opening…</p>}>
            <DryRun
              sheet={sheet}
              iso={steps?.iso ?? null}
              shutterS={steps?.shutterS ?? null}
              details={details}
            />
          </Suspense>
        ) : view === "sharp" && shown ? (
          <Suspense fallback={<p>Opening…</p>}>
            <SharpView
              sheet={sheet}
              size={shown}
              room={{ width: room.width - 2 * MARGIN_PX, height: room.height - 2 * MARGIN_PX }}
              selected={selected}
            />
          </Suspense>
        ) : shown ? (
          <Frame
            body={body}
            readings={answer.readings}
            size={shown}
            room={{ width: room.width - 2 * MARGIN_PX, height: room.height - 2 * MARGIN_PX }}
            selected={selected}
            onSelect={onSelect}
            edit={editor.edit}
          />
        ) : (
          <div className="grid max-w-[38ch] justify-items-center gap-3 p-6 text-center">
            {light && <p className="font-semibold">{light.report.notes[0]}</p>}
            {!light && answer.readings[0] && <Guessed reading={answer.readings[0]} />}
            <p>
              Drop, paste or choose a picture of the scene taken on auto. Oxlen measures its light.
              Then click what matters.
            </p>
            <PickButton look="main" text="Choose a picture" onFiles={take} />
            <CameraButton onFiles={take} />
            {!light && answer.readings.length === 0 && (
              <p className="flex flex-wrap items-center justify-center gap-2 text-ink">
                <Button onClick={onUsualLight}>Enter light</Button>
                <Link
                  href={`/begin?outing=${sheet.outing_id}`}
                  className={`${SHAPE} ${LOOKS.plain}`}
                >
                  Choose a situation
                </Link>
              </p>
            )}
          </div>
        )}
      </div>
      {shown && view === "read" && body.spots.length === 0 && (
        <p className="pb-2 text-center">Click what matters to read the light there.</p>
      )}
      <div className="text-ink">
        <WaitingReading sheet={sheet.id} />
        <ImportList incoming={incoming} onCancel={cancel} onDismiss={dismiss} onWhole={sendWhole} />
      </div>
    </DropZone>
  );
}

/** What the plan rests on while there is no picture. */
function Guessed({ reading }: { reading: LightReading }) {
  const light = reading.ev100 === null ? "" : ev(reading.ev100);
  return (
    <p>
      <b className="block text-[1.5rem] leading-tight">
        {light} ± {fixed(reading.plus_minus_stops, 1)}
      </b>
      {reading.name && <span className="block">{reading.name}</span>}
      {reading.kind === "level"
        ? "A guess from the table of usual light. Add a picture to replace it."
        : reading.why}
    </p>
  );
}

/** The size of a picture that can be shown; null when its pixels could not be read. */
function sizeShown(light: PictureLight): Size | null {
  const { width, height } = light.report.file;
  return light.report.frame && width && height ? { width, height } : null;
}
