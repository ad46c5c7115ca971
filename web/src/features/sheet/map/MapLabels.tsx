import type { Answer, Limit, LimitFields, Plan } from "../../../api/client";
import { LimitEditor } from "../limits/LimitEditor";
import { type Area, xOf, yOf } from "./mapModel";
import { OpenNumber } from "../limits/OpenNumber";
import type { Edit } from "../useSheetEditor";

/** A label and the gap under it: no smaller than a finger's least target. */
const LANE = 25;
const LANES = 3;

/** Height of the strip above the map that its labels of shutter limits need. */
export function bandOf(area: Area, plan: Plan): number {
  const shutter = labelsOf(area, plan).filter(({ limit }) => limit.axis === "shutter_s");
  return LANE * Math.max(1, ...shutter.map(({ lane }) => lane + 1)) + 6;
}

interface Label {
  limit: Limit;
  left: number;
  top: number;
  toLeft: boolean;
  at: number;
  lane: number;
  /** Which way its bound is beyond what is drawn; empty where it is drawn. */
  beyond: string;
}

interface Props {
  area: Area;
  plan: Plan;
  fields: Answer["fields"];
  edit: Edit;
  onPoint: (id: string | null) => void;
}

/** Every limit's name at its bound; each opens to its inputs, formula, source, fields. */
export function MapLabels({ area, plan, fields, edit, onPoint }: Props) {
  return (
    <>
      {labelsOf(area, plan).map(({ limit, left, top, toLeft, beyond }) => (
        <div
          key={limit.id}
          className="absolute"
          onPointerEnter={() => onPoint(limit.id)}
          onPointerLeave={() => onPoint(null)}
          style={{ left, top, transform: toLeft ? "translateX(-100%)" : undefined }}
        >
          <OpenNumber
            computation={limit.computation}
            inputs={limit.inputs}
            title={limit.name}
            sentence={limit.reason}
            source={limit.source}
            className={`bare block min-h-6 bg-raised px-1.5 text-[0.83rem] leading-6 whitespace-nowrap ${
              limit.binding ? "font-bold outline-1 outline-ink" : ""
            }`}
            more={<Fields fields={fields[limit.id]} edit={edit} />}
          >
            {limit.name}
            {beyond && <span aria-hidden="true"> {beyond}</span>}
          </OpenNumber>
        </div>
      ))}
    </>
  );
}

function Fields({ fields, edit }: { fields: LimitFields | undefined; edit: Edit }) {
  return fields ? <LimitEditor fields={fields} edit={edit} /> : null;
}

/** Stems from the strip above the map down to the bounds their labels speak of. */
export function LabelStems({ area, plan }: Pick<Props, "area" | "plan">) {
  return (
    <g stroke="var(--ink)" strokeWidth={1}>
      {labelsOf(area, plan)
        .filter(({ limit, beyond }) => limit.axis === "shutter_s" && !beyond)
        .map(({ limit, top, at }) => (
          <line
            key={limit.id}
            x1={at}
            x2={at}
            y1={top + 24}
            y2={area.bottom}
            strokeWidth={limit.binding ? 2 : 1}
            strokeDasharray={limit.binding ? undefined : "5 4"}
          />
        ))}
    </g>
  );
}

const widthOf = (limit: Limit) => limit.name.length * 6.5 + 14;

/** Shutter limits in the strip above, in the first lane with room; ISO limits on their line. */
function labelsOf(area: Area, plan: Plan): Label[] {
  const taken: [number, number][][] = [];
  const limits = plan.limits.filter((limit) => limit.owner !== "device");
  const shutter = limits
    .filter((limit) => limit.axis === "shutter_s")
    .map((limit) => ({ limit, bound: xOf(area, boundOf(limit)) }))
    .sort((a, b) => a.bound - b.bound)
    .map(({ limit, bound }) => {
      const at = within(area, bound);
      const beyond = bound < area.left - 1 ? "←" : bound > area.right + 1 ? "→" : "";
      const width = widthOf(limit);
      const toLeft = at + width > area.right + 10;
      const span: [number, number] = toLeft ? [at - width, at] : [at, at + width];
      let lane = 0;
      const busy = (row: [number, number][] | undefined) =>
        (row ?? []).some(([from, to]) => span[0] < to + 4 && span[1] > from - 4);
      while (lane < LANES - 1 && busy(taken[lane])) lane += 1;
      (taken[lane] ??= []).push(span);
      return { limit, left: at, toLeft, at, lane, beyond };
    });
  const band = LANE * Math.max(1, ...shutter.map(({ lane }) => lane + 1)) + 6;
  const above = shutter.map((label) => ({
    ...label,
    top: area.top - band + label.lane * LANE,
  }));
  const iso = apart(
    limits
      .filter((limit) => limit.axis === "iso")
      .map((limit) => {
        const line = yOf(area, limit.max ?? limit.min ?? 1);
        const beyond = line < area.top - 1 ? "↑" : line > area.bottom + 1 ? "↓" : "";
        const label = { limit, left: area.right - 4, toLeft: true, at: line, lane: 0, beyond };
        return { ...label, top: Math.max(area.top + 2, line - LANE) };
      }),
    area.bottom - 2 * LANE - 1,
  );
  // Tones are shown on the rail; here only what decides is named.
  const exposure = limits
    .filter((limit) => limit.axis === "ev100_set" && (limit.binding || limit.kind === "highlights"))
    .map((limit, index) => ({
      limit,
      left: area.right - 4,
      top: area.bottom - LANE * (index + 1),
      toLeft: true,
      at: 0,
      lane: 0,
      beyond: "",
    }));
  return [...above, ...iso, ...exposure];
}

/** Labels one under another, none lower than a place, each as near to its line as there is room. */
function apart(labels: Label[], lowest: number): Label[] {
  const sorted = [...labels].sort((a, b) => a.top - b.top);
  let from = -Infinity;
  const down = sorted.map((label) => {
    from = Math.max(label.top, from + LANE);
    return { ...label, top: from };
  });
  let to = lowest + LANE;
  return down.reverse().map((label) => {
    to = Math.min(label.top, to - LANE);
    return { ...label, top: to };
  });
}

/** The bound a shutter limit is named at: the one that cuts into the map. */
function boundOf(limit: Limit): number {
  if (limit.only) return limit.only[0] ?? limit.min ?? 1;
  return limit.max ?? limit.min ?? 1;
}

function within(area: Area, x: number): number {
  return Math.max(area.left + 1, Math.min(area.right - 1, x));
}
