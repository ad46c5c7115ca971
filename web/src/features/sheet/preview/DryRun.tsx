import { useState } from "react";
import { createPortal } from "react-dom";

import type { SheetView } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Segmented } from "../../../ui/Segmented";
import { DryDetails } from "./DryDetails";
import type { FrameWanted, Rendition } from "./frameQuery";
import { useDryRun } from "./useDryRun";
import { SideBySide, Wipe } from "./DryFrames";

const LOOK_WORDS: Record<Rendition, string> = { processed: "Processed", raw: "RAW" };
const LOOKS = [
  { value: "processed", text: LOOK_WORDS.processed },
  { value: "raw", text: LOOK_WORDS.raw },
] as const;
const WAYS = [
  { value: "wipe", text: "Wipe", title: "With divider" },
  { value: "side", text: "Pair", title: "Side by side" },
] as const;

interface Props {
  sheet: SheetView;
  iso: number | null;
  shutterS: number | null;
  /** Where the histogram, the figures, and what to do with the frame are shown. */
  details: HTMLElement | null;
}

/** The frame the slip will give, beside what auto would make of it or beside its other look. */
export function DryRun({ sheet, iso, shutterS, details }: Props) {
  const [rendition, setRendition] = useState<Rendition>("processed");
  const [against, setAgainst] = useState<"auto" | "look">("auto");
  const [way, setWay] = useState<"wipe" | "side">("wipe");
  const [marks, setMarks] = useState(false);
  const [wipe, setWipe] = useState(0.62);
  const otherLook: Rendition = rendition === "raw" ? "processed" : "raw";
  const wanted: FrameWanted = { chooser: "slip", rendition, marks, iso, shutterS };
  const first = useDryRun(sheet.id, sheet.version, wanted);
  const second = useDryRun(
    sheet.id,
    sheet.version,
    against === "auto" ? { ...wanted, chooser: "auto" } : { ...wanted, rendition: otherLook },
  );
  const error = first.error ?? second.error;
  if (!first.frame)
    return <p className="m-auto max-w-[40ch] p-4 text-center">{error ?? "Predicting…"}</p>;
  const pair = { first: first.frame, second: second.frame, withLook: against === "look" };
  return (
    <div className="flex h-full w-full flex-col gap-1.5 p-1.5">
      {error && (
        <p role="alert" className="px-2 text-center text-[0.88rem]">
          {error} The last frame stays on screen.
        </p>
      )}
      {way === "wipe" ? <Wipe {...pair} at={wipe} onWipe={setWipe} /> : <SideBySide {...pair} />}
      <div className="flex flex-wrap items-center justify-center gap-1.5 text-ink">
        <div className="w-24">
          <Segmented small label="Comparison" value={way} options={WAYS} onChange={setWay} />
        </div>
        <div className="w-32">
          <Segmented small label="Look" value={rendition} options={LOOKS} onChange={setRendition} />
        </div>
        <div className="w-36">
          <Segmented
            small
            label="Compare with"
            value={against}
            options={[
              { value: "auto", text: "vs auto", title: "Compare with auto" },
              {
                value: "look",
                text: `vs ${otherLook === "raw" ? "RAW" : "processed"}`,
                title: "Compare looks",
              },
            ]}
            onChange={setAgainst}
          />
        </div>
        <Button
          aria-pressed={marks}
          title="Outline clipped and blocked areas"
          className="bare min-h-7! px-2! max-[899px]:min-h-11! text-[0.85rem]! aria-pressed:bg-accent aria-pressed:text-on-accent"
          onClick={() => setMarks(!marks)}
        >
          Mark clipping
        </Button>
      </div>
      {details && createPortal(<DryDetails sheet={sheet} wanted={wanted} {...pair} />, details)}
    </div>
  );
}
