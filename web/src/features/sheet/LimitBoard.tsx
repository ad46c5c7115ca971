import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

import type { Answer, Limit, SheetBody } from "../../api/client";
import { GlassEditor } from "./GlassEditor";
import { HoldEditor } from "./HoldEditor";
import { LampEditor } from "./LampEditor";
import { LookEditor } from "./LookEditor";
import { MotionEditor } from "./MotionEditor";
import { OpenNumber } from "./OpenNumber";
import { OutputEditor } from "./OutputEditor";
import { PhoneEditor } from "./PhoneEditor";
import { SchoolFields } from "./SchoolFields";
import type { Edit } from "./useSheetEditor";

interface Props {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}

interface Row {
  id: string;
  name: string;
  kinds: string[];
  stated: string;
  editor: ReactNode;
}

/** What sets the limits: one row each with what is asked and what follows, opened beside it. */
export function LimitBoard({ body, answer, edit }: Props) {
  const limits = answer.plan?.limits ?? [];
  const rows = rowsOf({ body, answer, edit });
  return (
    <Tabs.Root
      defaultValue="hold"
      orientation="vertical"
      className="grid gap-x-5 gap-y-2 md:grid-cols-[minmax(17rem,0.85fr)_minmax(0,1.15fr)]"
    >
      <Tabs.List aria-label="What sets the limits" className="grid content-start">
        {rows.map((row) => (
          <Tabs.Trigger
            key={row.id}
            value={row.id}
            className="grid min-h-7 grid-cols-[0.9rem_5.6rem_1fr] items-center gap-2 border-b border-line px-1 text-left text-[0.92rem] leading-tight hover:bg-sunk data-[state=active]:bg-accent-soft"
          >
            <Binding limits={limits.filter((limit) => row.kinds.includes(limit.kind))} />
            <span>{row.name}</span>
            <b className="truncate font-semibold">{row.stated}</b>
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {rows.map((row) => (
        <Tabs.Content key={row.id} value={row.id} className="grid content-start gap-3">
          {row.editor}
          <Follows limits={limits.filter((limit) => row.kinds.includes(limit.kind))} />
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}

function Binding({ limits }: { limits: Limit[] }) {
  if (limits.length === 0) return <span />;
  const binding = limits.some((limit) => limit.binding);
  return (
    <span
      role="img"
      aria-label={binding ? "decides" : "has slack"}
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
              {limit.slack_stops.toFixed(1).replace("-", "−")} stops of room
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

function rowsOf({ body, answer, edit }: Props): Row[] {
  const props = { body, answer, edit };
  const held = { handheld: "in the hand", braced: "braced", tripod: "on a tripod" }[body.support];
  const lens = answer.lines.find((line) => line.field === "lens")?.value ?? body.lens ?? "";
  const names = (list: { name: string; subject?: string | null | undefined }[]) =>
    list.map((one) => one.name || one.subject || "mover").join(", ");
  const lamp = body.flicker?.mains_hz
    ? `${body.flicker.mains_hz} Hz mains`
    : body.flicker
      ? `driver at ${body.flicker.driver_hz} Hz`
      : "steady";
  const snr = body.output.snr === "any" ? "any noise" : `SNR ${body.output.snr}`;
  return [
    {
      id: "phone",
      name: "Phone, lens",
      kinds: ["device_shutter", "device_iso"],
      stated: `${answer.phone_name} · ${lens}`,
      editor: <PhoneEditor {...props} />,
    },
    {
      id: "hold",
      name: "Held",
      kinds: ["hold"],
      stated: body.hold.burst > 1 ? `${held}, burst of ${body.hold.burst}` : held,
      editor: <HoldEditor {...props} />,
    },
    {
      id: "motion",
      name: "Must freeze",
      kinds: ["freeze"],
      stated: names(body.motion) || "nothing moves",
      editor: <MotionEditor {...props} />,
    },
    {
      id: "looks",
      name: "Shall show",
      kinds: ["show"],
      stated: body.looks.map((look) => look.look).join(", ") || "no streaks",
      editor: <LookEditor {...props} />,
    },
    {
      id: "lamps",
      name: "Lamps",
      kinds: ["flicker"],
      stated: lamp,
      editor: <LampEditor {...props} />,
    },
    {
      id: "output",
      name: "Seen at",
      kinds: ["noise", "noise_dark", "highlights"],
      stated: `${body.output.use ?? "screen"}, ${snr}`,
      editor: <OutputEditor {...props} />,
    },
    {
      id: "glass",
      name: "Glass",
      kinds: [],
      stated: body.glass.map((glass) => glass.name).join(" + ") || "none",
      editor: <GlassEditor {...props} />,
    },
    {
      id: "school",
      name: "School",
      kinds: ["iso_cap"],
      stated: `${(body.school.iso ?? answer.plan?.school ?? "floor").replace("_", " ")}, ${body.school.exposure}`,
      editor: <SchoolFields body={body} edit={edit} />,
    },
  ];
}
