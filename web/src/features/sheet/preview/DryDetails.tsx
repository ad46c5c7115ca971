import { Term } from "../../help/Term";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { FrameFigures, SheetView } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useSay } from "../../../ui/Notices";
import { percent } from "../../../ui/numbers";
import type { FramePair } from "./DryFrames";
import { framePath, type FrameWanted, nameOf } from "./frameQuery";
import { takesQuery } from "../queries";
import { shootOnBench } from "../takes/queries";
import { blurWords, noiseWords } from "../slip/SlipFigures";
import { StopsHistogram } from "./StopsHistogram";

interface Props extends FramePair {
  sheet: SheetView;
  wanted: FrameWanted;
}

/** Beside the frames: their tones, their figures, and what can be done with them. */
export function DryDetails({ sheet, wanted, first, second, withLook }: Props) {
  return (
    <div className="grid gap-x-6 gap-y-3 md:grid-cols-[1.25fr_1fr_0.9fr]">
      <div className="grid content-start gap-1">
        <h3 className="text-[0.82rem] text-soft">
          Tones in <Term id="stop">stops</Term> from <Term id="mid">mid</Term>:{" "}
          {first.figures.chooser} filled
          {second && `, ${withLook ? "other look" : second.figures.chooser} as a line`}
        </h3>
        <StopsHistogram filled={first.figures} line={second?.figures ?? null} />
      </div>
      <div className="grid content-start gap-1.5">
        <Figures first={first} second={second} withLook={withLook} />
        <Doubt figures={first.figures} />
      </div>
      <div className="grid content-start justify-items-start gap-3">
        <Save sheet={sheet} wanted={wanted} />
        {sheet.body.scene && <Bench sheet={sheet} />}
      </div>
    </div>
  );
}

const ROWS: [string, (figures: FrameFigures) => string][] = [
  ["Clipped", (figures) => percent(figures.clipped_share)],
  ["Blocked", (figures) => percent(figures.blocked_share)],
  ["Blur", (figures) => blurWords(figures.blur_px, figures.blur_share)],
  ["Noise, SNR", (figures) => noiseWords(figures.snr_subject)],
];

function Figures({ first, second, withLook }: FramePair) {
  const frames = second ? [first, second] : [first];
  return (
    <table className="w-full text-[0.9rem]">
      <caption className="sr-only">Combined frames</caption>
      <thead>
        <tr className="align-bottom text-[0.8rem] leading-tight text-soft">
          <td />
          {frames.map((frame, index) => (
            <th key={index} scope="col" className="pb-0.5 pl-3 text-right font-normal">
              {nameOf(frame, withLook)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([name, words]) => (
          <tr key={name} className="border-t border-line">
            <th scope="row" className="text-left font-normal whitespace-nowrap text-soft">
              {name}
            </th>
            {frames.map((frame, index) => (
              <td key={index} className="pl-3 text-right whitespace-nowrap">
                {words(frame.figures)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What a prediction that rests on a picture cannot know. */
function Doubt({ figures }: { figures: FrameFigures }) {
  if (figures.from_scene) return null;
  const words = ["Motion and focus are those of your picture."];
  if (figures.source_lost_share > 0.0005)
    words.push(`${percent(figures.source_lost_share)} was already clipped in it.`);
  if (figures.source_noisy_share > 0.0005)
    words.push(`${percent(figures.source_noisy_share)} was already noisy.`);
  return <p className="text-[0.88rem] leading-tight">{words.join(" ")}</p>;
}

const LINK = "inline-flex min-h-7 items-center underline underline-offset-3 max-[899px]:min-h-11";

function Save({ sheet, wanted }: { sheet: SheetView; wanted: FrameWanted }) {
  const kinds = [
    ["JPEG", "jpeg"],
    ["PNG", "png"],
    ["TIFF, 16 bit", "tiff"],
  ] as const;
  return (
    <p className="flex flex-wrap items-center gap-x-3">
      <span className="text-soft">Save frame</span>
      {kinds.map(([text, kind]) => (
        <a
          key={kind}
          className={LINK}
          href={`/api${framePath(sheet.id, wanted, { kind })}`}
          download={`${sheet.body.title}.${kind === "tiff" ? "tif" : kind}`}
        >
          {text}
        </a>
      ))}
      <a className={LINK} href={`/api/sheets/${sheet.id}/readings.csv`}>
        Readings as CSV
      </a>
    </p>
  );
}

/** Shots on the bench phone become takes of the sheet. */
function Bench({ sheet }: { sheet: SheetView }) {
  const say = useSay();
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const shoot = (auto: boolean) => {
    setBusy(true);
    shootOnBench(sheet.id, { auto, seed: Date.now() % 1000 })
      .then(
        (takes) => {
          client.setQueryData(takesQuery(sheet.id).queryKey, takes);
          say(`Shot: ${takes[takes.length - 1]?.label ?? ""}. It is in the takes below.`);
        },
        (error: unknown) => say(error instanceof Error ? error.message : String(error)),
      )
      .finally(() => setBusy(false));
  };
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      <Button look="main" disabled={busy} onClick={() => shoot(false)}>
        Shoot on bench
      </Button>
      <Button disabled={busy} onClick={() => shoot(true)}>
        Shoot on auto
      </Button>
    </span>
  );
}
