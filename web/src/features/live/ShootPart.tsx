import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useRef, useState } from "react";

import { Refusal, type SheetView, type SpotBody, type TakeChecked } from "../../api/client";
import type { Camera, LiveSettings } from "../../phone/camera/camera";
import { Button } from "../../ui/Button";
import { Segmented } from "../../ui/Segmented";
import { compareDialled, type Dialled, type LiveView } from "./queries";
import { checkNewest, correct, keepLight, MOST_ROUNDS, photoOf, shoot, takesOf } from "./shooting";

const TIMERS = [
  { value: "0", text: "At once" },
  { value: "2", text: "2 s" },
  { value: "10", text: "10 s" },
] as const;
const SERIES = [
  { value: "1", text: "1 take" },
  { value: "3", text: "3" },
  { value: "8", text: "8" },
] as const;

interface Props {
  sheet: SheetView;
  camera: Camera;
  view: LiveView | null;
  spots: SpotBody[];
  children: ReactNode;
}

/** Dial, shoot, check and dial the correction. */
export function ShootPart({ sheet, camera, view, spots, children }: Props) {
  const client = useQueryClient();
  const [busy, setBusy] = useState("");
  const [trouble, setTrouble] = useState("");
  const [dialled, setDialled] = useState<Dialled | null>(null);
  const [checked, setChecked] = useState<TakeChecked | null>(null);
  const [timer, setTimer] = useState("0");
  const [count, setCount] = useState("1");
  const rounds = useRef(0);

  const work = (words: string, task: () => Promise<void>) => {
    setBusy(words);
    setTrouble("");
    void task()
      .catch((error: unknown) =>
        setTrouble(error instanceof Refusal ? error.message : "That failed. Try again."),
      )
      .finally(() => setBusy(""));
  };
  const dial = async (wanted: LiveSettings) => {
    await camera.set(wanted);
    setDialled(await compareDialled(wanted, camera.settings(), camera.can));
  };
  const dialSlip = () =>
    work("Dialling…", async () => {
      const wanted = view?.dial?.wanted;
      if (!wanted) return;
      // The plan is by this light: what is shot next is compared with it.
      await keepLight(sheet, spots, await photoOf(camera, view));
      rounds.current = 0;
      setChecked(null);
      await dial(wanted);
      await client.invalidateQueries({ queryKey: ["sheet", sheet.id] });
    });
  const shootNow = () =>
    work("Shooting…", async () => {
      const known = new Set((await takesOf(sheet.id).catch(() => [])).map((take) => take.id));
      for (let left = Number(timer); left > 0; left -= 1) {
        setBusy(`${left} s`);
        await new Promise((resolve) => window.setTimeout(resolve, 1000));
      }
      for (let shot = 0; shot < Number(count); shot += 1) {
        const refused = await shoot(sheet, await photoOf(camera, view));
        if (refused) throw new Refusal({ detail: refused, code: "kept", status: 0 });
      }
      setBusy("Checking…");
      setChecked(await checkNewest(sheet, known).catch(() => null));
      await client.invalidateQueries({ queryKey: ["takes", sheet.id] });
    });
  const dialCorrection = (found: TakeChecked) =>
    work("Dialling…", async () => {
      rounds.current += 1;
      await dial(await correct(sheet, found));
      setChecked(null);
    });

  const canCorrect = checked?.state === "change" && rounds.current < MOST_ROUNDS;
  return (
    <section aria-label="Shoot" className="grid grid-cols-1 gap-3">
      {dialled && !checked && (
        <div role="status" className="rounded border-2 border-accent bg-raised p-3">
          <p className="font-semibold">{dialled.words}</p>
          <ul className="mt-1 grid gap-1">
            {dialled.lines.map((line) => (
              <li key={line.field} className="flex flex-wrap gap-x-2">
                <span className="text-soft">{line.name}</span>
                <b className="tabular-nums">{line.wanted}</b>
                <span>{line.words}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {checked && (
        <div role="status" className="rounded border-2 border-accent bg-raised p-3">
          <p className="text-lg font-semibold">
            {checked.state === "keep" ? "As planned" : checked.next.one_change}
          </p>
          <p className="text-soft">{checked.next.why}</p>
          {canCorrect && (
            <Button look="main" className="mt-2 min-h-12" onClick={() => dialCorrection(checked)}>
              Dial the correction
            </Button>
          )}
        </div>
      )}
      {trouble && <p role="alert">{trouble}</p>}
      {children}
      <div className="grid grid-cols-2 gap-3">
        <Segmented label="Self-timer" value={timer} options={TIMERS} onChange={setTimer} />
        <Segmented label="Takes" value={count} options={SERIES} onChange={setCount} />
      </div>
      <div className="fixed inset-x-0 bottom-0 z-10 border-t border-line bg-panel p-3">
        <div className="mx-auto grid max-w-[42rem] grid-cols-2 gap-3">
          <Button
            className="min-h-14 text-lg"
            disabled={busy !== "" || !view?.dial?.wanted.shutter_s}
            onClick={dialSlip}
          >
            Dial it
          </Button>
          <Button
            look="main"
            className="min-h-14 text-lg"
            disabled={busy !== ""}
            onClick={shootNow}
          >
            {busy || "Shoot"}
          </Button>
        </div>
      </div>
    </section>
  );
}
