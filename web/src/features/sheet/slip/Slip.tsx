import { type ReactNode, useState } from "react";

import type { Answer } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { later, laterDialog } from "../../../ui/later";
import { LightShift } from "./LightShift";
import { LightTable } from "./LightTable";
import { Cautions } from "./Cautions";
import { ConflictLine, WaysOut } from "./Collision";
import { SlipFigures } from "./SlipFigures";
import { brokenAt, type Pair, wordsOf } from "../map/mapModel";
import { unbroken } from "../../../ui/numbers";
import { OpenNumber } from "../limits/OpenNumber";
import { type Line, linesOf } from "./slipText";
import type { Edit } from "../useSheetEditor";
import { Explained } from "../../help/Explained";

const HeldPanel = later(() => import("../field/HeldPanel").then((all) => all.HeldPanel));

const WhyPart = later(() => import("./WhyPart").then((all) => all.WhyPart));
const CardDialog = laterDialog(() => import("./CardDialog").then((all) => all.CardDialog));

interface Props {
  sheet: { id: number; version: number; outingId: number; lightShift: number };
  answer: Answer;
  pair: Pair | null;
  byHand: boolean;
  edit: Edit;
  onCopy: () => void;
  /** The chosen line, whose instrument is open. */
  chosen: string;
  onChoose: (field: string) => void;
}

/** The answer: what to dial, in the order to dial it, each with the one reason that decided it. */
export function Slip(props: Props) {
  const { sheet, answer, pair, byHand, edit, onCopy, chosen, onChoose } = props;
  const { plan, map } = answer;
  const lines = linesOf(answer, pair, byHand);
  const isHeld = window.matchMedia("(pointer: coarse)").matches;
  const [isTaken, setTaken] = useState(false);
  const collides = plan?.conflict != null && !byHand;
  const isOpen = plan?.slip == null && !byHand;
  return (
    <section
      aria-label="Slip"
      className="tag flex h-full flex-col px-4 pt-2 pb-3 max-[899px]:h-auto"
    >
      <Eyelet />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Cautions cautions={answer.cautions} grave />
        <ConflictLine answer={answer} />
        {isOpen && <NoSlip answer={answer} />}
        {lines.length > 0 && (
          <div>
            <h2 className="mb-1 text-center text-[0.9rem] text-soft">
              {isOpen
                ? "Not affected"
                : collides
                  ? "Nearest settings"
                  : `Dial on ${answer.phone_name}, in this order`}
            </h2>
            <ol className="divide-y divide-line border-y border-line">
              {lines.map((line, index) => (
                <SlipRow
                  key={line.field}
                  line={line}
                  number={index + 1}
                  small={collides}
                  chosen={line.field === chosen}
                  onChoose={() => onChoose(line.field)}
                />
              ))}
            </ol>
          </div>
        )}
        {!byHand && <WaysOut answer={answer} edit={edit} />}
        {map && plan && pair && (
          <Lands answer={answer} words={byHand ? wordsOf(map, pair) : null} />
        )}
        {plan && <LightShift shift={sheet.lightShift} edit={edit} />}
        <Cautions cautions={answer.cautions} grave={false} />
        {pair && <SlipFigures {...{ answer, pair, byHand }} />}
        {byHand && (
          <div className="mt-2 border-2 border-ink p-2">
            <p className="font-semibold">Chosen by hand</p>
            {map && pair && <Broken ids={brokenAt(map, pair)} answer={answer} />}
            <Button
              className="mt-1 w-full"
              onClick={() => edit("back to plan", (b) => ({ ...b, steps_by_hand: null }))}
            >
              Use plan
            </Button>
          </div>
        )}
        {answer.set_up.length > 0 && <SetUp answer={answer} />}
        {plan && <LightTable id={sheet.id} version={sheet.version} />}
        {plan && <WhyPart id={sheet.id} version={sheet.version} />}
        {isHeld && <HeldPanel outingId={sheet.outingId} />}
        {plan && <Aim answer={answer} />}
      </div>
      <div className="no-print flex gap-2 pt-2">
        <Button className="flex-1" onClick={onCopy} disabled={lines.length === 0}>
          Copy
        </Button>
        <Button className="flex-1" onClick={() => setTaken(true)} disabled={lines.length === 0}>
          Field card
        </Button>
      </div>
      <CardDialog sheetId={sheet.id} open={isTaken} onOpenChange={setTaken} />
    </section>
  );
}

function Eyelet() {
  return (
    <svg viewBox="0 0 60 22" className="mx-auto h-5" aria-hidden="true">
      <circle
        cx="30"
        cy="11"
        r="7"
        fill="var(--ground)"
        stroke="var(--line-strong)"
        strokeWidth="1.5"
      />
    </svg>
  );
}

/** Nothing to dial: why, or the pair that gives up least, which is no answer. */
function NoSlip({ answer }: { answer: Answer }) {
  const nearest = answer.plan?.compromise;
  if (!answer.plan) return <Dashed>{answer.why_no_plan}</Dashed>;
  if (!nearest) return <Dashed>This phone has no exposure for this picture.</Dashed>;
  const shutter = answer.map?.shutters.find((step) => step.value_s === nearest.slip.shutter_s);
  return (
    <Dashed>
      <b className="block">Not recommended</b>
      <span className="text-[0.9rem] leading-snug text-soft">
        {shutter?.label ?? `${nearest.slip.shutter_s} s`}, ISO {nearest.slip.iso} breaks the limits
        least. {nearest.words}
      </span>
    </Dashed>
  );
}

function Dashed({ children }: { children: ReactNode }) {
  return <div className="my-2 rounded border border-dashed border-strong p-3">{children}</div>;
}

interface RowProps {
  line: Line;
  number: number;
  small: boolean;
  chosen: boolean;
  onChoose: () => void;
}

/** A value of so few characters stays on one line: its number with its unit. */
const SHORT = 14;

/** A line of the slip; choosing it opens its instrument. */
function SlipRow({ line, number, small, chosen, onChoose }: RowProps) {
  const size = line.on_map && !small ? "text-[1.85rem] leading-none" : "text-[1.1rem]";
  return (
    <li>
      <button
        type="button"
        aria-current={chosen || undefined}
        onClick={onChoose}
        className={`grid w-full grid-cols-[1.2rem_auto_1fr] items-baseline gap-x-2 border-l-4 py-1 pr-1 pl-1 text-left hover:bg-sunk ${chosen ? "border-accent bg-accent-soft" : "border-transparent"}`}
      >
        <span className="text-soft">{number}</span>
        <span>{line.name}</span>
        <span
          className={`text-right font-bold ${size} ${line.value.length <= SHORT ? "whitespace-nowrap" : ""}`}
          data-fact={line.field}
        >
          {line.value}
        </span>
        {(!small || chosen) && <Reasons line={line} chosen={chosen} />}
      </button>
    </li>
  );
}

/** The one reason that decided a line, and what to mind about it. */
function Reasons({ line, chosen }: { line: Line; chosen: boolean }) {
  return (
    <>
      <span
        className={`col-span-2 col-start-2 text-[0.86rem] leading-tight ${chosen ? "" : "text-soft"}`}
      >
        {unbroken(line.reason)}
        {line.plus_minus && <span className="whitespace-nowrap"> ({line.plus_minus})</span>}
      </span>
      {line.notes.length > 0 && (
        <span className="col-span-2 col-start-2 text-[0.86rem] leading-tight">
          {unbroken(line.notes[0] ?? "")}
          {line.notes.length > 1 && <b className="ml-1">+{line.notes.length - 1}</b>}
        </span>
      )}
    </>
  );
}

/** How the phone is set up for this sheet, and put back afterwards. */
function SetUp({ answer }: { answer: Answer }) {
  return (
    <details className="mt-2 text-[0.92rem]">
      <summary className="min-h-8 py-1 font-semibold">
        Set up first: {answer.set_up.length} steps
      </summary>
      <ol className="grid list-decimal gap-1 pl-6 leading-snug">
        {answer.set_up.map((step) => (
          <li key={step}>
            <Explained>{step}</Explained>
          </li>
        ))}
      </ol>
      <p className="mt-2 font-semibold">Reset afterwards</p>
      <ul className="grid list-disc gap-1 pl-6 leading-snug">
        {answer.put_back.map((step) => (
          <li key={step}>
            <Explained>{step}</Explained>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Where the spots land: what matters most first; the tone rail has the rest. */
function Lands({ answer, words }: { answer: Answer; words: string | null }) {
  const missed = answer.plan?.outcome.some((spot) => OFF.has(spot.state));
  return (
    <p className={`py-2 leading-snug ${missed ? "font-semibold" : ""}`}>
      {words ? `${words.charAt(0).toUpperCase()}${words.slice(1)}.` : answer.plan?.outcome_words}
    </p>
  );
}

const OFF = new Set(["darker", "brighter", "clipped"]);

function Broken({ ids, answer }: { ids: string[]; answer: Answer }) {
  if (ids.length === 0) return <p className="text-[0.9rem]">It meets every limit.</p>;
  const limits = answer.plan?.limits ?? [];
  return (
    <ul className="text-[0.9rem]">
      {ids.map((id) => (
        <li key={id}>Breaks “{limits.find((limit) => limit.id === id)?.name ?? id}”</li>
      ))}
    </ul>
  );
}

function Aim({ answer }: { answer: Answer }) {
  const plan = answer.plan;
  const reason = plan?.reasons.find((each) => each.value === "exposure");
  if (!plan || !reason) return null;
  const { slip } = plan;
  return (
    <p className="mt-2 text-[0.9rem] leading-snug">
      {reason.text}{" "}
      {slip && (
        <OpenNumber
          computation="ev100"
          inputs={{ N: slip.f_number, t: slip.shutter_s, iso: slip.iso }}
          title="Exposure"
        >
          Exposed for
        </OpenNumber>
      )}
    </p>
  );
}
