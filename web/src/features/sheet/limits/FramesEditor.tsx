import { Link, useLocation } from "wouter";

import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";
import { RampPart } from "./RampPart";

const COUNTED: Partial<Record<string, string>> = {
  series: "Frames in a series",
  median: "Frames of the median",
};

/** How many frames make the picture, and what becomes of them. */
export function FramesEditor({ body, answer, edit }: EditorProps) {
  const [place] = useLocation();
  const own = { body, edit, does: "frames" };
  const exposures = answer.plan?.exposures ?? [];
  const bracketed = body.frames.combine === "bracket";
  const blended = body.frames.combine === "blend";
  const isPlanned = bracketed || blended;
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-3 gap-2">
        <AskField {...own} path={["frames", "combine"]} />
        {!isPlanned && (
          <AskField
            {...own}
            label={COUNTED[body.frames.combine] ?? "Frames averaged"}
            unit=""
            path={["frames", "count"]}
          />
        )}
        {!isPlanned && <AskField {...own} path={["frames", "gap_s"]} />}
      </div>
      {body.frames.combine === "series" && <RampPart body={body} edit={edit} />}
      <Link href={`${place}/exposures`} className="underline underline-offset-4">
        Multiple exposure
      </Link>
      {isPlanned && exposures.length > 1 && (
        <table className="w-full max-w-md text-[0.93rem]">
          <caption className="sr-only">Exposure of each frame</caption>
          <tbody>
            {exposures.map((exposure, index) => (
              <tr key={index} className="border-t border-line">
                <td className="text-soft">{index + 1}</td>
                {exposure.settings
                  .filter((line) => line.on_map)
                  .map((line) => (
                    <td key={line.field} className="py-1">
                      {line.name} <b>{line.label}</b>
                    </td>
                  ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {bracketed && exposures.length < 2 && (
        <p className="text-soft">
          Mark the brightest and the darkest detail to keep. Oxlen works out the frames between.
        </p>
      )}
    </div>
  );
}
