import { useCallback, useEffect, useRef, useState } from "react";

import { newMark } from "../../api/marks";
import type { SpotBody } from "../../api/client";
import { benchCamera } from "../../phone/camera/benchCamera";
import { browserCamera } from "../../phone/camera/browserCamera";
import { type Camera, troubleOf } from "../../phone/camera/camera";
import { isSimulated } from "../../phone/chosen";
import { inBase64, type KnownLight, type LiveView, readFrame } from "./queries";

/** Five readings a second; one after a minute without a touch; none after five. */
const EVERY_MS = 190;
const RESTING_EVERY_MS = 1000;
const RESTS_AFTER_MS = 60_000;
const STOPS_AFTER_MS = 300_000;
const FRAME_PX = 240;
const WAITS_MS = 400;

export type LiveState = "off" | "starting" | "on" | "resting";

export interface Live {
  state: LiveState;
  camera: Camera | null;
  view: LiveView | null;
  /** The last frame read, where the camera has no stream to show. */
  picture: string | null;
  trouble: string;
  start: () => Promise<void>;
  stop: (why?: string) => void;
  touched: () => void;
}

interface Of {
  sheetId: number;
  spots: SpotBody[] | null;
  known: KnownLight | null;
  filterStops: number;
  cameraKey: string;
}

/** The camera and what is read through it, a frame at a time: the next one begins when one is done. */
export function useLive({ sheetId, spots, known, filterStops, cameraKey }: Of): Live {
  const [state, setState] = useState<LiveState>("off");
  const [view, setView] = useState<LiveView | null>(null);
  const [picture, setPicture] = useState<string | null>(null);
  const [trouble, setTrouble] = useState("");
  const [camera, setCamera] = useState<Camera | null>(null);
  const touchedAt = useRef(0);
  const asked = useRef({ spots, known, filter_stops: filterStops });
  useEffect(() => {
    asked.current = { spots, known, filter_stops: filterStops };
  }, [spots, known, filterStops]);

  const stop = useCallback((why = "") => {
    setCamera((now) => {
      now?.stop();
      return null;
    });
    setState("off");
    setTrouble(why);
  }, []);

  const start = useCallback(async () => {
    setState("starting");
    setTrouble("");
    try {
      const found = await (isSimulated() ? benchCamera(sheetId) : browserCamera());
      found.onEnded(() => stop("The camera was taken away. Start it again."));
      touchedAt.current = Date.now();
      setCamera(found);
      setState("on");
    } catch (error) {
      setState("off");
      setTrouble(isSimulated() && error instanceof Error ? error.message : troubleOf(error));
    }
  }, [sheetId, stop]);

  useEffect(() => {
    if (!camera) return undefined;
    const page = { name: newMark(), isOver: false };
    const isOver = () => page.isOver;
    let url: string | null = null;
    const run = async () => {
      for (let number = 1; ; number += 1) {
        if (isOver()) return;
        const begun = Date.now();
        const still = begun - touchedAt.current;
        if (still > STOPS_AFTER_MS) {
          stop("The camera stopped after five minutes without a touch.");
          return;
        }
        setState(still > RESTS_AFTER_MS ? "resting" : "on");
        await readOnce(number).catch(() => wait(WAITS_MS));
        const every = still > RESTS_AFTER_MS ? RESTING_EVERY_MS : EVERY_MS;
        await wait(Math.max(0, every - (Date.now() - begun)));
      }
    };
    const readOnce = async (number: number) => {
      const blob = await camera.frame(FRAME_PX);
      if (isOver()) return;
      if (camera.stream === null) {
        const before = url;
        url = URL.createObjectURL(blob);
        setPicture(url);
        if (before) window.setTimeout(() => URL.revokeObjectURL(before), WAITS_MS);
      }
      const found = await readFrame(sheetId, {
        frame: await inBase64(blob),
        number,
        page: page.name,
        settings: camera.settings(),
        camera: cameraKey,
        ...asked.current,
      });
      if (!isOver() && found) setView(found);
    };
    void run();
    return () => {
      page.isOver = true;
      if (url) URL.revokeObjectURL(url);
    };
  }, [camera, sheetId, cameraKey, stop]);

  useEffect(() => {
    const hide = () => {
      if (document.visibilityState === "hidden")
        stop("The camera stopped when the page was hidden.");
    };
    document.addEventListener("visibilitychange", hide);
    return () => document.removeEventListener("visibilitychange", hide);
  }, [stop]);

  useEffect(() => () => camera?.stop(), [camera]);

  const touched = useCallback(() => {
    touchedAt.current = Date.now();
  }, []);
  return { state, camera, view, picture, trouble, start, stop, touched };
}

const wait = (ms: number) => new Promise((resolve) => window.setTimeout(resolve, ms));
