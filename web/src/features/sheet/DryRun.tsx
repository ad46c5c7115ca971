import { type PointerEvent, useRef, useState } from "react";
import { createPortal } from "react-dom";

import { ask, type SheetView } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { Segmented } from "../../ui/Segmented";
import { percent } from "../said";
import { type DryFrame, dryRunPath, type DryWanted, useDryRun } from "./dryRun";
import { StopsHistogram } from "./StopsHistogram";

const LOOKS = [
  { value: "processed", text: "Processed" },
  { value: "raw", text: "RAW" },
] as const;
const WAYS = [
  { value: "wipe", text: "Wipe" },
  { value: "side", text: "Side by side" },
] as const;
const LOUPE_PX = 150;

interface Props {
  sheet: SheetView;
  iso: number | null;
  shutterS: number | null;
  /** Where the histogram, the doubts, and what to do with the frame are shown. */
  details: HTMLElement | null;
}

/** The frame the slip will give, beside what auto would make of it. */
export function DryRun({ sheet, iso, shutterS, details }: Props) {
  const [look, setLook] = useState<DryWanted["look"]>("processed");
  const [way, setWay] = useState<"wipe" | "side">("wipe");
  const [marks, setMarks] = useState(false);
  const [wipe, setWipe] = useState(0.62);
  const wanted = { look, marks, iso, shutterS };
  const slip = useDryRun(sheet.id, sheet.version, { ...wanted, who: "slip" });
  const auto = useDryRun(sheet.id, sheet.version, { ...wanted, who: "auto" });
  const error = slip.error ?? auto.error;
  if (error && !slip.frame) return <p className="m-auto max-w-[40ch] p-4 text-center">{error}</p>;
  return (
    <div className="flex h-full w-full flex-col gap-1.5 p-1.5">
      <div className={`min-h-0 flex-1 ${way === "side" ? "grid grid-cols-2 gap-1.5" : ""}`}>
        {way === "wipe" ? (
          <Wipe slip={slip.frame} auto={auto.frame} at={wipe} onWipe={setWipe} />
        ) : (
          [slip.frame, auto.frame].map((frame, index) => <Shown key={index} frame={frame} />)
        )}
      </div>
      <div className="flex flex-wrap items-center justify-center gap-1.5 text-ink">
        <div className="w-36">
          <Segmented small label="Way to compare" value={way} options={WAYS} onChange={setWay} />
        </div>
        <div className="w-36">
          <Segmented small label="Look" value={look} options={LOOKS} onChange={setLook} />
        </div>
        <Button
          aria-pressed={marks}
          title="Lines round what is clipped, blocked, or was lost in your picture"
          className="bare min-h-7! px-2! text-[0.85rem]! aria-pressed:bg-accent aria-pressed:text-on-accent"
          onClick={() => setMarks(!marks)}
        >
          Shores
        </Button>
      </div>
      {details &&
        slip.frame &&
        createPortal(
          <div className="grid gap-x-6 gap-y-3 md:grid-cols-[1.5fr_1fr]">
            <div className="grid content-start gap-2">
              <h3 className="text-[0.82rem] text-soft">
                Tones in stops from mid: the slip's filled, auto's as a line
              </h3>
              <StopsHistogram slip={slip.frame.figures} auto={auto.frame?.figures ?? null} />
              <Doubt frame={slip.frame} />
            </div>
            <div className="grid content-start justify-items-start gap-3">
              <Save sheet={sheet} wanted={{ ...wanted, who: "slip" }} />
              {sheet.body.scene && <Bench sheet={sheet} />}
            </div>
          </div>,
          details,
        )}
    </div>
  );
}

function nameOf(frame: DryFrame): string {
  return `${frame.figures.who} ${frame.figures.label}`;
}

function Shown({ frame }: { frame: DryFrame | null }) {
  if (!frame) return <div className="grid place-items-center">Predicting…</div>;
  return (
    <figure className="relative min-h-0 min-w-0">
      <Loupe frame={frame}>
        <img
          src={frame.url}
          alt={`Predicted frame, ${nameOf(frame)}`}
          className="h-full w-full object-contain"
          data-quality={frame.quality}
        />
      </Loupe>
      <Tag left>{nameOf(frame)}</Tag>
    </figure>
  );
}

function Tag({ left, children }: { left?: boolean; children: string }) {
  return (
    <figcaption
      className={`pointer-events-none absolute top-1 ${left ? "left-1" : "right-1"} rounded-xs bg-black/70 px-1.5 text-[0.85rem] text-white`}
    >
      {children}
    </figcaption>
  );
}

interface WipeProps {
  slip: DryFrame | null;
  auto: DryFrame | null;
  at: number;
  onWipe: (share: number) => void;
}

/** Slip on the left of a line, auto on its right; the line is dragged or moved by arrow keys. */
function Wipe({ slip, auto, at, onWipe }: WipeProps) {
  const box = useRef<HTMLDivElement>(null);
  const held = useRef(false);
  if (!slip) return <div className="grid h-full place-items-center">Predicting…</div>;
  const move = (event: PointerEvent) => {
    const rect = box.current?.getBoundingClientRect();
    if (rect) onWipe(Math.max(0, Math.min(1, (event.clientX - rect.left) / rect.width)));
  };
  return (
    <div className="grid h-full place-items-center">
      <div ref={box} className="relative aspect-[4/3] h-full max-w-full">
        <Loupe frame={slip}>
          <img
            src={slip.url}
            alt={`Predicted frame, ${nameOf(slip)}`}
            className="absolute inset-0 h-full w-full"
            data-quality={slip.quality}
          />
          {auto && (
            <img
              src={auto.url}
              alt={`Predicted frame, ${nameOf(auto)}`}
              className="absolute inset-0 h-full w-full"
              style={{ clipPath: `inset(0 0 0 ${at * 100}%)` }}
            />
          )}
        </Loupe>
        <Tag left>{nameOf(slip)}</Tag>
        {auto && <Tag>{nameOf(auto)}</Tag>}
        <div
          role="slider"
          tabIndex={0}
          aria-label="Wipe between slip and auto"
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(at * 100)}
          className="absolute inset-y-0 w-6 -translate-x-1/2 cursor-ew-resize touch-none"
          style={{ left: `${at * 100}%` }}
          onPointerDown={(event) => {
            held.current = true;
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => held.current && move(event)}
          onPointerUp={() => (held.current = false)}
          onKeyDown={(event) => {
            if (event.key === "ArrowLeft") onWipe(Math.max(0, at - 0.05));
            if (event.key === "ArrowRight") onWipe(Math.min(1, at + 0.05));
          }}
        >
          <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-white outline-1 outline-black" />
        </div>
      </div>
    </div>
  );
}

/** A glass over the picture that shows its pixels one to one. */
function Loupe({ frame, children }: { frame: DryFrame; children: React.ReactNode }) {
  const [at, setAt] = useState<{ x: number; y: number; u: number; v: number } | null>(null);
  const [size, setSize] = useState({ width: 960, height: 720 });
  return (
    <div
      className="relative h-full w-full"
      onPointerMove={(event) => {
        const rect = event.currentTarget.getBoundingClientRect();
        const [x, y] = [event.clientX - rect.left, event.clientY - rect.top];
        setAt({ x, y, u: x / rect.width, v: y / rect.height });
      }}
      onPointerLeave={() => setAt(null)}
    >
      {children}
      <img
        src={frame.url}
        alt=""
        className="hidden"
        onLoad={(event) =>
          setSize({
            width: event.currentTarget.naturalWidth,
            height: event.currentTarget.naturalHeight,
          })
        }
      />
      {at && frame.quality === "full" && (
        <div
          aria-hidden="true"
          className="pointer-events-none absolute z-10 border-2 border-white outline-1 outline-black"
          style={{
            width: LOUPE_PX,
            height: LOUPE_PX,
            left: at.x + 16,
            top: at.y - LOUPE_PX / 2,
            backgroundImage: `url(${frame.url})`,
            backgroundSize: `${size.width}px ${size.height}px`,
            backgroundPosition: `${LOUPE_PX / 2 - at.u * size.width}px ${LOUPE_PX / 2 - at.v * size.height}px`,
            backgroundRepeat: "no-repeat",
          }}
        />
      )}
    </div>
  );
}

/** What the prediction rests on, and what it cannot know. */
function Doubt({ frame }: { frame: DryFrame | null }) {
  if (!frame) return null;
  const { figures } = frame;
  const words = [
    `clipped ${percent(figures.clipped_share)}`,
    `blocked ${percent(figures.blocked_share)}`,
  ];
  if (!figures.from_scene) {
    if (figures.source_lost_share > 0.0005)
      words.push(`${percent(figures.source_lost_share)} was already clipped in your picture`);
    if (figures.source_noisy_share > 0.0005)
      words.push(`${percent(figures.source_noisy_share)} was already noisy`);
    words.push("motion and focus are as in your picture");
  }
  return <p className="text-[0.93rem]">{sentence(words.join("; "))}</p>;
}

function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

function Save({ sheet, wanted }: { sheet: SheetView; wanted: DryWanted }) {
  const kinds = [
    ["JPEG", "jpeg"],
    ["PNG", "png"],
    ["TIFF, 16 bit", "tiff"],
  ] as const;
  return (
    <p className="flex flex-wrap items-center gap-x-3">
      <span className="text-soft">Save the frame</span>
      {kinds.map(([text, kind]) => (
        <a
          key={kind}
          className="underline underline-offset-3"
          href={dryRunPath(sheet.id, wanted, { kind })}
          download={`${sheet.body.title}.${kind === "tiff" ? "tif" : kind}`}
        >
          {text}
        </a>
      ))}
      <a className="underline underline-offset-3" href={`/api/sheets/${sheet.id}/readings.csv`}>
        readings as CSV
      </a>
    </p>
  );
}

/** Shots on the bench phone come in as sheets of their own. */
function Bench({ sheet }: { sheet: SheetView }) {
  const say = useSay();
  const [busy, setBusy] = useState(false);
  const shoot = (auto: boolean) => {
    setBusy(true);
    const seed = sheet.version % 1000;
    ask<SheetView>(`/sheets/${sheet.id}/bench-shot`, { method: "POST", body: { auto, seed } })
      .then(
        (taken) =>
          say(`Taken: “${taken.body.title}”.`, {
            text: "Open it",
            run: () => window.location.assign(`/sheets/${taken.id}`),
          }),
        (error: unknown) => say(error instanceof Error ? error.message : String(error)),
      )
      .finally(() => setBusy(false));
  };
  return (
    <span className="flex items-center gap-1.5">
      <Button look="main" disabled={busy} onClick={() => shoot(false)}>
        Shoot this on the bench phone
      </Button>
      <Button disabled={busy} onClick={() => shoot(true)}>
        And on auto
      </Button>
    </span>
  );
}
