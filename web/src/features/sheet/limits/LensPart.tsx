import type { Answer, LensOption, SheetBody } from "../../../api/client";
import { NumberField } from "../../../ui/Field";
import { fixed, percent, precise, signed } from "../../../ui/numbers";
import { blurWords, noiseWords } from "../slip/SlipFigures";
import { useAsks } from "./useAsks";
import type { Edit } from "../useSheetEditor";
import { Explained } from "../../help/Explained";

interface Props {
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}
type Framing = NonNullable<SheetBody["framing"]>;

/** The same picture through every lens of the phone: where to stand, what it gives, what moves. */
export function LensComparison(props: Props) {
  const lenses = props.answer.plan?.lenses ?? [];
  return (
    <div className="grid h-full content-start gap-2 overflow-y-auto p-1">
      {lenses.map((lens) => (
        <LensCard key={lens.lens_id} lens={lens} {...props} />
      ))}
    </div>
  );
}

/** How large things shall be, for every lens. */
export function FramingFields({ body, edit }: Omit<Props, "answer">) {
  const { ask } = useAsks();
  const framing = ask("framing");
  const begun = framing?.entry as Framing | undefined;
  return (
    <div className="grid grid-cols-6 gap-2 max-md:grid-cols-3">
      {framing?.fields.map((field) => {
        const key = field.path[1] as keyof Framing;
        return (
          <NumberField
            key={key}
            label={field.label}
            unit={field.unit}
            value={body.framing?.[key] ?? null}
            low={field.low}
            high={field.high}
            placeholder={body.framing ? "any" : "not set"}
            onCommit={(value) =>
              begun && edit("framing", (b) => ({ ...b, framing: after(b, begun, key, value) }))
            }
          />
        );
      })}
    </div>
  );
}

/** The framing after one field was filled or emptied; none at all when the distance is emptied. */
function after(
  body: SheetBody,
  begun: Framing,
  key: keyof Framing,
  value: number | null,
): Framing | null {
  if (value === null && key === "distance_m") return null;
  return { ...(body.framing ?? begun), [key]: value ?? begun[key] ?? null };
}

function LensCard({ lens, answer, edit }: Props & { lens: LensOption }) {
  const used = answer.plan?.slip?.lens ?? answer.plan?.compromise?.slip.lens ?? null;
  const inUse = used === lens.lens_id;
  const { slip, figures } = lens;
  const facts: [string, string][] = [
    ["Slip", answer.lenses[lens.lens_id]?.slip || "none"],
    ["Equivalent", `f/${fixed(lens.equivalent_f_number, 1)} on 35 mm`],
    ["Edge stretch", `${fixed(lens.edge_shape, 2)} ×`],
  ];
  if (slip && figures)
    facts.splice(1, 0, [
      "SNR, blur",
      `${noiseWords(figures.snr_subject)}, ${blurWords(figures.blur_px, figures.blur_share).split(",")[0]}`,
    ]);
  if (lens.distance_m !== null)
    facts.splice(1, 0, ["Stand at", `${precise(lens.distance_m, 3)} m`]);
  if (lens.background_growth !== null)
    facts.push(["Background", `${fixed(lens.background_growth, 2)} × as large as now`]);
  if (lens.background_share !== null)
    facts.push(["Subject takes", `${percent(lens.background_share)} of the height`]);
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
            Use this
          </button>
        )}
      </h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr_auto_1fr] gap-x-3 text-[0.9rem] max-md:grid-cols-[auto_1fr]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">
              <Explained>{name}</Explained>
            </dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-[0.88rem] leading-snug">
        <Explained>{lens.because}</Explained>
      </p>
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
