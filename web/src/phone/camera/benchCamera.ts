import { type Camera, type LiveCan, type LiveSettings, nameNow, NOTHING_KNOWN } from "./camera";

const WHOLE_RANGE = { shutter_s: [1e-4, 30], iso: [50, 6400], white_k: [2300, 10000] } as const;

const dial = ([low, high]: readonly [number, number]) => ({ low, high, can_set: true });

const CAN: LiveCan = {
  shutter_s: dial(WHOLE_RANGE.shutter_s),
  iso: dial(WHOLE_RANGE.iso),
  white_k: dial(WHOLE_RANGE.white_k),
  focus_dioptres: dial([0, 20]),
  compensation_stops: null,
  photo: true,
  points: false,
  torch: false,
};

/** The bench phone as a live camera on a sheet's scene: for trying out without a phone. */
export async function benchCamera(sheetId: number): Promise<Camera> {
  let dialled: LiveSettings = NOTHING_KNOWN;
  let inForce: LiveSettings = NOTHING_KNOWN;
  let seed = 0;
  let isStopped = false;
  const shoot = async (isWhole: boolean): Promise<Blob> => {
    if (isStopped) throw new Error("The camera is off.");
    const asked = new URLSearchParams({ seed: String((seed += 1)), whole: String(isWhole) });
    if (dialled.iso != null) asked.set("iso", String(dialled.iso));
    if (dialled.shutter_s != null) asked.set("shutter_s", String(dialled.shutter_s));
    if (dialled.white_k != null) asked.set("white_k", String(dialled.white_k));
    if (dialled.focus_dioptres != null)
      asked.set("focus_m", String(1 / Math.max(0.01, dialled.focus_dioptres)));
    const answer = await fetch(`/api/live/bench/${sheetId}?${asked}`);
    if (!answer.ok) throw new Error(((await answer.json()) as { detail: string }).detail);
    inForce = {
      ...dialled,
      iso: Number(answer.headers.get("x-iso")),
      shutter_s: Number(answer.headers.get("x-shutter-s")),
    };
    return answer.blob();
  };
  await shoot(false);
  return {
    note: "Simulated camera on this sheet’s scene.",
    can: CAN,
    stream: null,
    settings: () => inForce,
    set: async (wanted) => {
      const given = Object.entries(wanted).filter(([, value]) => value !== null);
      // One of the pair alone: the other stays as auto had it.
      const pair = { iso: inForce.iso ?? null, shutter_s: inForce.shutter_s ?? null };
      dialled = { ...dialled, ...pair, ...Object.fromEntries(given) };
      await shoot(false);
    },
    onAuto: async () => {
      dialled = NOTHING_KNOWN;
      await shoot(false);
    },
    pointAt: () => Promise.resolve(),
    frame: () => shoot(false),
    photo: async () => new File([await shoot(true)], nameNow(), { type: "image/jpeg" }),
    stop: () => {
      isStopped = true;
    },
    onEnded: () => undefined,
  };
}
