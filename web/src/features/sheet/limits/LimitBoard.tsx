import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

import type { Answer, Ask, Limit, SheetBody } from "../../../api/client";
import { FramesEditor } from "./FramesEditor";
import { FilterEditor } from "./FilterEditor";
import { HoldEditor } from "./HoldEditor";
import { LampEditor } from "./LampEditor";
import { LookEditor } from "./LookEditor";
import { MotionEditor } from "./MotionEditor";
import { OpenNumber } from "./OpenNumber";
import { OtherAsk } from "./OtherAsks";
import { OutputEditor } from "./OutputEditor";
import { SurroundingsEditor } from "./SurroundingsEditor";
import { PhoneEditor } from "./PhoneEditor";
import { StrategyFields } from "./StrategyFields";
import { useAsks } from "./useAsks";
import { EXPOSURE } from "../line/instruments";
import type { Edit } from "../useSheetEditor";
import { stops } from "../../../ui/numbers";

export interface EditorProps {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}

interface Row {
  id: string;
  name: string;
  /** The asks it edits; limits that rest on one of them are shown with it. */
  asks: string[];
  stated: string;
  editor: ReactNode;
  /** Limits that are shown here whatever they rest on. */
  also?: (limit: Limit) => boolean;
}

/** What sets the limits: one row each with what is asked and what follows, opened beside it. */
export function LimitBoard({ field, ...props }: EditorProps & { field: string }) {
  const { asks } = useAsks();
  const limits = props.answer.plan?.limits ?? [];
  const rows = rowsOf(props, asks);
  const limitsOf = (row: Row) => limits.filter((limit) => belongs(limit, row));
  return (
    <Tabs.Root
      defaultValue={rowOf(field, rows)}
      orientation="vertical"
      className="grid gap-x-5 gap-y-2 md:grid-cols-[minmax(17rem,0.85fr)_minmax(0,1.15fr)]"
    >
      <Tabs.List aria-label="What sets the limits" className="grid content-start">
        {rows.map((row) => (
          <Tabs.Trigger
            key={row.id}
            value={row.id}
            className="grid min-h-7 grid-cols-[0.9rem_6.6rem_1fr] items-center gap-2 border-b border-line px-1 text-left text-[0.92rem] leading-tight hover:bg-sunk data-[state=active]:bg-accent-soft"
          >
            <Binding limits={limitsOf(row)} />
            <span>{row.name}</span>
            <b className="truncate font-semibold">{row.stated}</b>
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {rows.map((row) => (
        <Tabs.Content key={row.id} value={row.id} className="grid content-start gap-3">
          {row.editor}
          <Follows limits={limitsOf(row)} />
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}

/** The row that edits a line of the slip: what decides ISO, else what it asks itself, else support. */
function rowOf(field: string, rows: Row[]): string {
  if (field === "iso") return "strategy";
  return rows.find((row) => row.asks.includes(field))?.id ?? "hold";
}

function Binding({ limits }: { limits: Limit[] }) {
  if (limits.length === 0) return <span />;
  const binding = limits.some((limit) => limit.binding);
  return (
    <span
      role="img"
      aria-label={binding ? "decides" : "has room"}
      className={`h-2.5 w-2.5 rotate-45 border border-ink ${binding ? "bg-ink" : ""}`}
    />
  );
}

/** What follows from a row: its limits in words, each to be opened. */
function Follows({ limits }: { limits: Limit[] }) {
  if (limits.length === 0) return null;
  return (
    <ul className="grid gap-1 border-t border-line pt-2 text-[0.92rem] leading-snug">
      {limits.map((limit) => (
        <li key={limit.id}>
          <OpenNumber
            computation={limit.computation}
            inputs={limit.inputs}
            title={limit.name}
            sentence={limit.reason}
            source={limit.source}
            className="min-h-6 py-0.5"
          >
            {limit.reason}
          </OpenNumber>
          {limit.slack_stops !== null && (
            <span className="ml-2 whitespace-nowrap text-soft">
              {stops(limit.slack_stops)} spare
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

function belongs(limit: Limit, row: Row): boolean {
  return row.also?.(limit) || limit.edited_by.some((name) => row.asks.includes(name));
}

/** A row for everything that has an editor of its own, and one for every ask that has none. */
function rowsOf(props: EditorProps, asks: Ask[]): Row[] {
  const own = ownRows(props);
  const covered = new Set(own.flatMap((row) => row.asks));
  // What another instrument shows is edited beneath that one.
  const others = asks.filter((ask) => ask.instrument === EXPOSURE && !covered.has(ask.name));
  return [
    ...own,
    ...others.map((ask) => ({
      id: ask.name,
      name: ask.label,
      asks: [ask.name],
      stated: isAsked(props.body, ask.name) ? "asked" : "not set",
      editor: <OtherAsk ask={ask} {...props} />,
    })),
  ];
}

function isAsked(body: SheetBody, name: string): boolean {
  const value: unknown = Object.entries(body).find(([key]) => key === name)?.[1];
  return value !== null && value !== undefined;
}

function ownRows(props: EditorProps): Row[] {
  const { body, answer } = props;
  const lens = answer.lines.find((line) => line.field === "lens")?.value ?? body.lens ?? "";
  return [
    {
      id: "strategy",
      name: "ISO, strategy",
      asks: ["strategy"],
      stated: statedStrategy(body.strategy, answer.plan?.strategy),
      editor: <StrategyFields {...props} />,
    },
    {
      id: "phone",
      name: "Phone, lens",
      asks: ["lens", "mode", "format"],
      stated: `${answer.phone_name} · ${lens}`,
      editor: <PhoneEditor {...props} />,
      also: (limit) => limit.owner === "device",
    },
    {
      id: "hold",
      name: "Support",
      asks: ["support", "hold"],
      stated: statedHold(body),
      editor: <HoldEditor {...props} />,
    },
    {
      id: "motion",
      name: "Freeze motion",
      asks: ["motion"],
      stated: body.motion.map(nameOf).join(", ") || "not set",
      editor: <MotionEditor {...props} />,
    },
    {
      id: "looks",
      name: "Motion blur",
      asks: ["looks"],
      stated: body.looks.map((look) => look.look).join(", ") || "none",
      editor: <LookEditor {...props} />,
    },
    {
      id: "lamps",
      name: "Lamps",
      asks: ["flicker"],
      stated: statedLamps(body),
      editor: <LampEditor {...props} />,
    },
    {
      id: "output",
      name: "Output size",
      asks: ["output"],
      stated: `${body.output.use ?? "screen"}, ${body.output.snr === "any" ? "any noise" : `SNR ${body.output.snr}`}`,
      editor: <OutputEditor {...props} />,
      also: (limit) => limit.axis === "ev100_set" && limit.kind === "highlights",
    },
    {
      id: "glass",
      name: "Filters",
      asks: ["glass"],
      stated: body.glass.map((worn) => worn.name).join(" + ") || "none",
      editor: <FilterEditor {...props} />,
    },
    {
      id: "frames",
      name: "Frames",
      asks: ["frames"],
      stated: statedFrames(body),
      editor: <FramesEditor {...props} />,
    },
    {
      id: "surroundings",
      name: "Surroundings",
      asks: ["surroundings"],
      stated: statedSurroundings(body),
      editor: <SurroundingsEditor {...props} />,
    },
  ];
}

function statedSurroundings({ surroundings: scene }: SheetBody): string {
  const on = { ground: "", boat: "on a boat", bridge: "on a bridge", vehicle: "in a vehicle" };
  const has = scene.has.length > 0 ? `${scene.has.length} to mind` : "";
  return [on[scene.stand], has].filter(Boolean).join(", ") || "firm ground";
}

function nameOf(mover: { name: string; subject?: string | null | undefined }): string {
  return mover.name || mover.subject || "mover";
}

function statedHold(body: SheetBody): string {
  const words = { handheld: "handheld", braced: "braced", tripod: "on a tripod" };
  const support = words[body.support];
  return body.hold.burst > 1 ? `${support}, burst of ${body.hold.burst}` : support;
}

function statedLamps({ flicker }: SheetBody): string {
  if (!flicker) return "steady";
  return flicker.mains_hz ? `${flicker.mains_hz} Hz mains` : `driver at ${flicker.driver_hz} Hz`;
}

function statedFrames({ frames }: SheetBody): string {
  if (frames.combine === "bracket") return "a bracket";
  if (frames.combine === "blend") return "2, blended";
  if (frames.count === 1) return "one";
  const how = {
    series: "in series",
    median: "median",
    average: "averaged",
    phone: "averaged",
  };
  return `${frames.count} ${how[frames.combine]}`;
}

function statedStrategy(strategy: SheetBody["strategy"], usual: string | undefined): string {
  const iso = strategy.iso_fixed
    ? `ISO ${strategy.iso_fixed}`
    : (strategy.iso ?? usual ?? "").replace("_", " ");
  return `${iso}, ${strategy.exposure}`;
}
