import type { Answer, ExposureMap } from "../../../api/client";
import { few, percent } from "../../../ui/numbers";
import type { Pair } from "../map/mapModel";
import { Explained } from "../../help/Explained";

interface Props {
  answer: Answer;
  pair: Pair;
  byHand: boolean;
}

/** What the pair in force will give: blur, noise, clipping; read from the map, nothing worked. */
export function SlipFigures({ answer, pair, byHand }: Props) {
  const { map, plan } = answer;
  const shutter = map?.shutters[pair.column];
  if (!map || !plan || !shutter) return null;
  const clipped = map.clipped_share?.[pair.row]?.[pair.column];
  const facts: [string, string][] = [
    [plan.motion_asked ? "Blur" : "Shake", blurWords(shutter.blur_px, shutter.blur_share)],
    ["Noise", cleanWords(map, map.snr_subject[pair.row]?.[pair.column] ?? 0)],
  ];
  if (!plan.motion_asked) facts.push(["Motion", "not set: does anything move?"]);
  if (shutter.streak_share !== null)
    facts.push(["Streak", `${percent(shutter.streak_share)} of the height`]);
  const most = map.clipped_share_most?.[pair.row]?.[pair.column];
  // Of a set of frames, one keeps what another loses.
  if (clipped !== undefined && plan.exposures.length < 2)
    facts.push(["Clipped", shareWords(clipped, most ?? clipped)]);
  return (
    <>
      {answer.chance && !byHand && (
        <p className="border-t border-line py-1.5 text-[0.93rem]">
          <Explained>{answer.chance.words}</Explained>
        </p>
      )}
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 border-t border-line py-1.5 text-[0.9rem]">
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">
              <Explained>{name}</Explained>
            </dt>
            <dd className="text-right">
              <Explained>{value}</Explained>
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** A share, or the two ends it is between where the picture cannot tell. */
function shareWords(least: number, most: number): string {
  return percent(least) === percent(most)
    ? percent(least)
    : `${percent(least)} to ${percent(most)}`;
}

export function blurWords(px: number, share: number): string {
  if (px < 0.05) return "none";
  return `${few(px)} px, ${percent(share)}`;
}

/** SNR with the word people use for it. */
function cleanWords(map: ExposureMap, snr: number): string {
  const word = map.noise_words.find((each) => snr >= each.from_snr)?.word ?? "";
  return `${word}, SNR ${noiseWords(snr)}`;
}

export function noiseWords(snr: number): string {
  return few(snr);
}
