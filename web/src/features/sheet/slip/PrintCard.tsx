import type { Answer, SheetBody } from "../../../api/client";
import { ev, signed, stops } from "../../../ui/numbers";
import type { Line } from "./slipText";

interface Props {
  body: SheetBody;
  answer: Answer;
  lines: Line[];
}

/** One page for the pocket: the slip, the readings, the picture. Only on paper. */
export function PrintCard({ body, answer, lines }: Props) {
  return (
    <section className="hidden p-4 print:block">
      <h1 className="text-2xl font-bold">{body.title}</h1>
      <p>{body.intent}</p>
      <p className="mb-3">On {answer.phone_name}</p>
      {answer.plan?.conflict && (
        <p className="mb-2 border-2 border-black p-2 font-semibold">
          Conflict: {answer.plan.conflict.sentence}
        </p>
      )}
      {answer.cautions.length > 0 && (
        <p className="mb-2">
          <b>Caution:</b> {answer.cautions.map((caution) => caution.words).join(" ")} Local rules
          and licensed people come first.
        </p>
      )}
      <ol className="mb-3 border-y-2 border-black">
        {lines.map((line, index) => (
          <li key={line.field} className="flex items-baseline gap-4 py-1">
            <span>{index + 1}</span>
            <span className="w-20">{line.name}</span>
            <b className={line.on_map ? "text-3xl" : "text-xl"} data-fact={line.field}>
              {line.value}
            </b>
            <span>
              {line.reason}
              {line.plus_minus && ` (${line.plus_minus})`}
              {line.notes.map((note) => (
                <span key={note} className="block text-[0.85rem]">
                  {note}
                </span>
              ))}
            </span>
          </li>
        ))}
      </ol>
      <ul className="mb-3">
        {answer.plan?.outcome.map((spot) => (
          <li key={spot.name}>{spot.words}</li>
        ))}
      </ul>
      {answer.set_up.length > 0 && (
        <p className="mb-3">
          <b>Set up first:</b> {answer.set_up.join(". ")}. <b>Put back:</b>{" "}
          {answer.put_back.join(". ")}.
        </p>
      )}
      <table className="mb-3">
        <tbody>
          {answer.readings.map((reading) => (
            <tr key={reading.id}>
              <td className="pr-4">{reading.name || reading.role}</td>
              <td className="pr-4" data-fact={`light of ${reading.id}`}>
                {reading.ev100 === null ? "not measured" : ev(reading.ev100)}
              </td>
              <td className="pr-4">± {stops(reading.plus_minus_stops)}</td>
              <td>wanted at {signed(reading.place)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {body.picture && (
        <img src={`/api/pictures/${body.picture}/preview`} alt="" className="max-h-[12cm]" />
      )}
    </section>
  );
}
