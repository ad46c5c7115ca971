import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { KitPhone, Measurement, MeasurementKind } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { NumberField } from "../../ui/Field";
import { DropZone, PickButton } from "../outings/DropZone";
import { MeasureDrawing } from "./MeasureDrawing";
import { MeasurePlot } from "./MeasurePlot";
import { OwnModeChoice } from "./OwnModeChoice";
import { mysteryKindsQuery } from "./queries";
import { useMeasurement } from "./useMeasurement";
import { Explained } from "../help/Explained";

interface Named {
  id: string;
  name: string;
}

interface Props {
  phone: KitPhone;
  lens: Named;
  mode: Named;
  kind: MeasurementKind;
  onClose: () => void;
  onEnded: (ended: Measurement) => void;
}

/** A guided measurement; of a mode that the phone computes, which one is asked first. */
export function MeasureDialog({ phone, lens, mode, kind, onClose, onEnded }: Props) {
  const [own, setOwn] = useState<{ mode: Named; phone: string } | null>(null);
  const id = own?.phone ?? phone.profile.id;
  const measured = own?.mode ?? (kind.of_computed ? null : mode);
  return (
    <Dialog
      wide
      open
      title={`${kind.name}: ${lens.name}${measured ? `, ${measured.name}` : ""}`}
      onOpenChange={(open) => !open && onClose()}
    >
      {measured ? (
        <Steps
          phone={{ id, shipped: phone.shipped && id === phone.profile.id }}
          {...{ lens, mode: measured, kind, onEnded }}
        />
      ) : (
        <OwnModeChoice
          {...{ phone, lens }}
          onChosen={(chosen, on) => setOwn({ mode: chosen, phone: on })}
        />
      )}
    </Dialog>
  );
}

interface StepsProps {
  phone: { id: string; shipped: boolean };
  lens: Named;
  mode: Named;
  kind: MeasurementKind;
  onEnded: (ended: Measurement) => void;
}

/** What to do, the pictures, their result; resumed where it was left. */
function Steps({ phone, lens, mode, kind, onEnded }: StepsProps) {
  const subject = { phone: phone.id, kind: kind.id, lens: lens.id, mode: mode.id };
  const measurement = useMeasurement(subject);
  const { now, reading, problems } = measurement;
  const end = (how: "use" | "leave") =>
    void measurement.end(how).then((ended) => ended && onEnded(ended));
  const result = now?.words ?? null;
  const { data: benched = [] } = useQuery(mysteryKindsQuery);
  const practice = phone.id.startsWith("mystery-") && benched.includes(kind.id);
  return (
    <DropZone onFiles={(files) => void measurement.add(files)} className="grid gap-4">
      <div className="grid gap-4 md:grid-cols-[15rem_1fr]">
        <MeasureDrawing kind={kind.id} />
        <div>
          <p className="mb-2">
            {kind.why} <span className="text-soft">About {kind.minutes} min.</span>
          </p>
          <ol className="list-decimal space-y-1 pl-5">
            {kind.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
        </div>
      </div>
      <Questions kind={kind} given={now?.given ?? {}} onSay={measurement.say} />
      {practice && !kind.takes_pictures && (
        <p>
          <Button disabled={measurement.onBench} onClick={measurement.bench}>
            Shoot on bench
          </Button>
        </p>
      )}
      {kind.takes_pictures && (
        <p className="flex flex-wrap items-center gap-3">
          <PickButton
            look={now?.pictures.length ? "plain" : "main"}
            text={now?.pictures.length ? "Add pictures" : "Choose pictures"}
            onFiles={(files) => void measurement.add(files)}
          />
          {practice && now?.pictures.length === 0 && (
            <Button disabled={measurement.onBench} onClick={measurement.bench}>
              Shoot on bench
            </Button>
          )}
          <span className="text-soft">
            or drop them here. The measurements stay until you finish. The files are not saved.
          </span>
        </p>
      )}
      {measurement.onBench && (
        <p role="status" className="flex items-center gap-3">
          <progress className="flex-1 accent-(--accent)" />
          Shooting on the bench, up to 30 s
        </p>
      )}
      {reading && (
        <p role="status" className="flex items-center gap-3">
          <progress className="flex-1 accent-(--accent)" value={reading.done} max={reading.of} />
          Reading {reading.done + 1} of {reading.of} {reading.left}
          <Button onClick={measurement.cancel}>Stop</Button>
        </p>
      )}
      {problems.map((words) => (
        <p key={words} role="alert" className="rounded border-2 border-ink bg-raised p-2">
          {words}
        </p>
      ))}
      {now && now.pictures.length > 0 && <Pictures now={now} onDrop={measurement.drop} />}
      {now?.missing && (now.pictures.length > 0 || !kind.takes_pictures) && (
        <p role="status" className="border-l-4 border-line-strong pl-3">
          {now.missing}
        </p>
      )}
      {now && result && <Result now={now} words={result} />}
      {result && (
        <div className="sticky -bottom-4 -mx-4 -mb-4 flex flex-wrap justify-end gap-3 border-t border-line bg-panel px-4 py-3">
          <Button onClick={() => end("leave")}>Keep old value</Button>
          <Button look="main" onClick={() => end("use")}>
            {phone.shipped ? "Use in copy" : "Use this"}
          </Button>
        </div>
      )}
    </DropZone>
  );
}

interface QuestionProps {
  kind: MeasurementKind;
  given: Record<string, number>;
  onSay: (given: Record<string, number>) => void;
}

function Questions({ kind, given, onSay }: QuestionProps) {
  if (kind.questions.length === 0) return null;
  return (
    <div className="grid grid-cols-2 gap-3 md:grid-cols-4">
      {kind.questions.map((question) => (
        <NumberField
          key={question.id}
          label={question.label}
          unit={question.unit}
          low={question.low}
          high={question.high}
          value={given[question.id] ?? question.usual ?? null}
          onCommit={(value) => {
            const rest = Object.entries(given).filter(([id]) => id !== question.id);
            onSay(Object.fromEntries(value === null ? rest : [...rest, [question.id, value]]));
          }}
        />
      ))}
    </div>
  );
}

function Pictures({ now, onDrop }: { now: Measurement; onDrop: (picture: number) => void }) {
  const [all, setAll] = useState(false);
  const shown = all ? now.pictures : now.pictures.slice(-8);
  const hidden = now.pictures.length - shown.length;
  return (
    <section aria-label="Pictures read">
      <h3 className="flex items-baseline gap-3 font-semibold">
        {now.pictures.length} {now.pictures.length === 1 ? "picture" : "pictures"} read
        {hidden > 0 && (
          <button
            type="button"
            className="min-h-6 font-normal text-accent underline"
            onClick={() => setAll(true)}
          >
            Show other {hidden}
          </button>
        )}
      </h3>
      <ul className="grid gap-x-6 md:grid-cols-2">
        {shown.map((picture) => (
          <li key={picture.id} className="flex min-h-11 items-center gap-2 border-t border-line">
            <span className="min-w-0 flex-1 truncate">{picture.name}</span>
            <span className="text-[0.9rem] text-soft">{picture.read}</span>
            <Button
              look="quiet"
              aria-label={`Remove ${picture.name}`}
              onClick={() => onDrop(picture.id)}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Result({ now, words }: { now: Measurement; words: string }) {
  return (
    <section
      aria-label="Result"
      className="grid gap-4 rounded border border-line bg-raised p-3 md:grid-cols-[1fr_1.1fr]"
    >
      <div className="grid content-start gap-3">
        <p className="text-lg leading-snug font-semibold">
          <Explained>{words}</Explained>
        </p>
        <table className="w-full text-left">
          <thead>
            <tr className="text-[0.88rem] text-soft">
              <th className="font-normal" />
              <th className="font-normal">now</th>
              <th className="font-normal">found</th>
            </tr>
          </thead>
          <tbody>
            {now.figures.map((figure) => (
              <tr key={figure.path} className="border-t border-line align-top">
                <th className="py-1 pr-2 font-normal">{figure.name}</th>
                <td className="pr-2 text-soft">{figure.now ?? "none"}</td>
                <td>
                  <b>{figure.found}</b>
                  <span className="block text-[0.88rem] text-soft">{figure.plus_minus}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {now.doubts.map((doubt) => (
          <p key={doubt} role="status" className="border-2 border-ink bg-panel p-2">
            {doubt}
          </p>
        ))}
      </div>
      {now.plot && <MeasurePlot plot={now.plot} />}
    </section>
  );
}
