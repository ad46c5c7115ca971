import type { Answer, LensOption, SheetBody } from "../../api/client";
import { NumberField } from "../../ui/Field";
import { percent, signed } from "../said";
import { blurWords, noiseWords } from "./Gives";
import type { Edit } from "./useSheetEditor";

interface Props {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}
type Framing = NonNullable<SheetBody["framing"]>;

const EMPTY: Framing = { distance_m: 3, background_m: 20 };
const FIELDS: { key: keyof Framing; label: string; unit: string; low: number; high: number }[] = [
  { key: "distance_m", label: "Subject at", unit: "m", low: 0.05, high: 1e6 },
  { key: "subject_m", label: "Subject's height", unit: "m", low: 0.001, high: 1e5 },
  { key: "subject_share", label: "Subject", unit: "× frame", low: 0.001, high: 20 },
  { key: "background_m", label: "Background behind", unit: "m", low: 0, high: 1e6 },
  { key: "background_size_m", label: "Background's height", unit: "m", low: 0.001, high: 1e6 },
  { key: "background_share", label: "Background", unit: "× frame", low: 0.001, high: 20 },
];

/** The same picture through every lens of the phone: where to stand, what it gives, what moves. */
export function LensPart({ body, answer, edit }: Props) {
  const framing = body.framing ?? EMPTY;
  const lenses = answer.plan?.lenses ?? [];
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-6 gap-2 max-md:grid-cols-3">
        {FIELDS.map(({ key, label, unit, low, high }) => (
          <NumberField
            key={key}
            label={label}
            unit={unit}
            value={body.framing ? (framing[key] ?? null) : null}
            low={low}
            high={high}
            placeholder={body.framing ? "any" : "not said"}
            onCommit={(value) => edit("framing", (b) => ({ ...b, framing: after(b, key, value) }))}
          />
        ))}
      </div>
      <div className="grid gap-2 md:grid-cols-3">
        {lenses.map((lens) => (
          <LensCard key={lens.lens_id} lens={lens} {...{ body, answer, edit }} />
        ))}
      </div>
    </div>
  );
}

/** The framing after one field was filled or emptied; none at all when the distance is emptied. */
function after(body: SheetBody, key: keyof Framing, value: number | null): Framing | null {
  if (value === null && key === "distance_m") return null;
  const held = body.framing ?? EMPTY;
  return { ...held, [key]: value ?? EMPTY[key] ?? null };
}

function LensCard({ lens, answer, edit }: Props & { lens: LensOption }) {
  const used = answer.plan?.slip?.lens ?? answer.plan?.compromise?.slip.lens;
  const inUse = used === lens.lens_id;
  const shutter = answer.map?.shutters.find((step) => step.value_s === lens.slip.shutter_s)?.label;
  const facts: [string, string][] = [
    ["Slip", `${shutter ?? `${lens.slip.shutter_s} s`}, ISO ${lens.slip.iso}`],
    [
      "SNR, blur",
      `${noiseWords(lens.figures.snr_subject)}, ${blurWords(lens.figures.blur_px, lens.figures.blur_share).split(",")[0]}`,
    ],
    ["Depth and light as", `f/${lens.equivalent_f_number.toFixed(1)} on the 35 mm frame`],
    ["Stretch at the edge", `${lens.edge_shape.toFixed(2)} ×`],
  ];
  if (lens.distance_m !== null)
    facts.splice(1, 0, ["Stand at", `${lens.distance_m.toPrecision(3)} m`]);
  if (lens.background_growth !== null)
    facts.push(["Background", `${lens.background_growth.toFixed(2)} × as large as now`]);
  if (lens.background_share !== null)
    facts.push(["It takes", `${percent(lens.background_share)} of the height`]);
  return (
    <article
      className={`rounded border bg-raised p-2 ${inUse ? "border-2 border-accent" : "border-line"}`}
    >
      <h3 className="flex items-baseline gap-2">
        <b>
          {lens.rank}. {lens.name}
        </b>
        <span className="text-soft">{lens.focal35_mm} mm</span>
        {inUse ? (
          <span className="ml-auto text-[0.85rem]">in use</span>
        ) : (
          <button
            type="button"
            className="ml-auto rounded border border-strong px-2 hover:bg-sunk"
            onClick={() =>
              edit(`lens ${lens.name}`, (b) => ({ ...b, ...answer.lenses[lens.lens_id]?.patch }))
            }
          >
            Use it
          </button>
        )}
      </h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-[0.9rem]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-[0.88rem] leading-snug">{lens.because}</p>
      {Object.keys(lens.moved_stops).length > 0 && (
        <p className="text-[0.84rem] text-soft">
          Stops moved:{" "}
          {Object.entries(lens.moved_stops)
            .map(([name, stops]) => `${name} ${signed(stops)}`)
            .join("; ")}
        </p>
      )}
    </article>
  );
}
