import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useRef, useState } from "react";

import { Refusal, type SheetView, type SpotBody, type TakeChecked } from "../../api/client";
import type { Camera, LiveSettings } from "../../phone/camera/camera";
import { Button } from "../../ui/Button";
import { Segmented } from "../../ui/Segmented";
import { BeforeAfter } from "./BeforeAfter";
import { compareDialled, type Dialled, type LiveView } from "./queries";
import {
  type Checked,
  checkNewest,
  correct,
  keepLight,
  MOST_ROUNDS,
  photoOf,
  shoot,
  shootPlanned,
  takesOf,
} from "./shooting";
import { ThingBand } from "./ThingBand";
import { useShutterKeys } from "./useShutterKeys";
import { DialledLines, TakeVerdict } from "./Verdict";

const TIMERS = [
  { value: "0", text: "At once" },
  { value: "2", text: "2 s" },
  { value: "10", text: "10 s" },
] as const;
const SERIES = [
  { value: "1", text: "1 take" },
  { value: "3", text: "3" },
  { value: "8", text: "8" },
];
/** What the checklist shoots: a bracket, a series, a burst. Counts as none of the numbers above. */
const PLANNED = "planned";

const AS_PLANNED = { value: PLANNED, text: "As planned" };
const shotsOf = (view: LiveView) => view.planned.reduce((sum, each) => sum + each.frames, 0);

interface Props {
  sheet: SheetView;
  camera: Camera;
  view: LiveView | null;
  spots: SpotBody[];
  cameraKey: string;
  children: ReactNode;
}

/** Dial, shoot, check and dial the correction. */
export function ShootPart({ sheet, camera, view, spots, cameraKey, children }: Props) {
  const client = useQueryClient();
  const [busy, setBusy] = useState("");
  const [trouble, setTrouble] = useState("");
  const [dialled, setDialled] = useState<Dialled | null>(null);
  const [checked, setChecked] = useState<Checked | null>(null);
  const [before, setBefore] = useState<string | null>(null);
  const [timer, setTimer] = useState("0");
  const [count, setCount] = useState("1");
  const rounds = useRef(0);

  const work = (words: string, task: () => Promise<void>): Promise<void> => {
    setBusy(words);
    setTrouble("");
    return task()
      .catch((error: unknown) =>
        setTrouble(error instanceof Refusal ? error.message : "That failed. Try again."),
      )
      .finally(() => setBusy(""));
  };
  const dial = async (wanted: LiveSettings, toSet: LiveSettings) => {
    await camera.set(toSet);
    const named = { can: camera.can, key: cameraKey };
    setDialled(await compareDialled(wanted, camera.settings(), named));
  };
  const dialSlip = () =>
    work("Dialling…", async () => {
      if (!view?.dial) return;
      // The plan is by this light: what is shot next is compared with it.
      await keepLight(sheet, spots, view, await photoOf(camera, view));
      rounds.current = 0;
      setChecked(null);
      setBefore(null);
      await dial(view.dial.wanted, view.dial.to_set);
      await client.invalidateQueries({ queryKey: ["sheet", sheet.id] });
    });
  const shootNow = () =>
    work("Shooting…", async () => {
      const known = new Set((await takesOf(sheet.id).catch(() => [])).map((take) => take.id));
      for (let left = Number(timer); left > 0; left -= 1) {
        setBusy(`${left} s`);
        await new Promise((resolve) => window.setTimeout(resolve, 1000));
      }
      if (count === PLANNED && view) {
        const refused = await shootPlanned(sheet, camera, view, (shot, of) =>
          setBusy(`${shot} of ${of}`),
        );
        if (refused) throw new Refusal({ detail: refused, code: "kept", status: 0 });
      }
      for (let shot = 0; shot < Number(count); shot += 1) {
        const refused = await shoot(sheet, await photoOf(camera, view));
        if (refused) throw new Refusal({ detail: refused, code: "kept", status: 0 });
      }
      setBusy("Checking…");
      setChecked(await checkNewest(sheet, known).catch(() => null));
      await client.invalidateQueries({ queryKey: ["takes", sheet.id] });
      await client.invalidateQueries({ queryKey: ["shop", sheet.id] });
    });
  useShutterKeys(() => void shootNow(), busy === "");
  const dialCorrection = (found: TakeChecked) =>
    work("Dialling…", async () => {
      rounds.current += 1;
      const wanted = await correct(sheet, found);
      await dial(wanted, wanted);
      setBefore(checked?.take.picture ?? null);
      setChecked(null);
    });

  const canCorrect = checked?.check.state === "change" && rounds.current < MOST_ROUNDS;
  return (
    <section aria-label="Shoot" className="grid grid-cols-1 gap-3">
      <ThingBand sheetId={sheet.id} isBusy={busy !== ""} shoot={shootNow} />
      {dialled && !checked && <DialledLines dialled={dialled} />}
      {checked && (
        <TakeVerdict
          check={checked.check}
          onDial={canCorrect ? () => void dialCorrection(checked.check) : null}
        />
      )}
      {checked && before && before !== checked.take.picture && (
        <BeforeAfter before={before} after={checked.take.picture} />
      )}
      {trouble && <p role="alert">{trouble}</p>}
      {children}
      <div className="grid grid-cols-2 gap-3">
        <Segmented label="Self-timer" value={timer} options={TIMERS} onChange={setTimer} />
        <Segmented
          label="Takes"
          value={count}
          options={view && shotsOf(view) > 1 ? [...SERIES, AS_PLANNED] : SERIES}
          onChange={setCount}
        />
      </div>
      <div className="fixed inset-x-0 bottom-0 z-10 border-t border-line bg-panel p-3">
        <div className="mx-auto grid max-w-[42rem] grid-cols-2 gap-3">
          <Button
            className="min-h-14 text-lg"
            disabled={busy !== "" || !view?.dial?.wanted.shutter_s}
            onClick={() => void dialSlip()}
          >
            Dial it
          </Button>
          <Button
            look="main"
            className="min-h-14 text-lg"
            disabled={busy !== ""}
            onClick={() => void shootNow()}
          >
            {busy || "Shoot"}
          </Button>
        </div>
      </div>
    </section>
  );
}
