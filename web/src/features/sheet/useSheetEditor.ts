import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { ask, Refusal, type SheetBody, type SheetView } from "../../api/client";
import { onNews } from "../../app/news";
import { useSay } from "../../ui/Notices";
import { putSheet, sheetQuery } from "./queries";
import { keepWaiting, keptWaiting } from "./waitingEdits";

type Change = (body: SheetBody) => SheetBody;
export type Edit = (label: string, change: Change) => void;

export interface Editor {
  sheet: SheetView | undefined;
  error: Error | null;
  saving: boolean;
  /** Edits wait on screen, since the server does not answer; they are sent once it does. */
  waits: boolean;
  edit: Edit;
  step: (way: "undo" | "redo") => void;
  accept: (sheet: SheetView) => void;
}

const TRY_AGAIN_MS = 1500;

/**
 * A sheet being edited. The body changes at once on screen; edits are sent one at a time, the
 * latest standing for those that gathered meanwhile, and the answer follows from the server.
 */
export function useSheetEditor(id: number): Editor {
  const client = useQueryClient();
  const say = useSay();
  const query = useQuery(sheetQuery(id));
  const key = useMemo(() => sheetQuery(id).queryKey, [id]);
  const waiting = useRef<{ label: string; body: SheetBody } | null>(null);
  const busy = useRef(false);
  const [saving, setSaving] = useState(false);
  const [waits, setWaits] = useState(false);

  const accept = useCallback((sheet: SheetView) => client.setQueryData(key, sheet), [client, key]);

  const away = useRef(false);
  const behind = useRef(false);
  const lookAgain = useCallback(() => {
    behind.current = false;
    void client.invalidateQueries({ queryKey: key });
  }, [client, key]);

  const again = useRef<() => Promise<void>>(() => Promise.resolve());
  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    setSaving(true);
    while (waiting.current) {
      const next = waiting.current;
      waiting.current = null;
      const version = client.getQueryData(key)?.version ?? 1;
      try {
        const kept = await putSheet(id, { version, ...next });
        // A newer edit on screen must not be replaced by the answer to an older one.
        const newer = (waiting as { current: typeof next | null }).current;
        accept(newer ? { ...kept, body: newer.body } : kept);
        setWaits(false);
        away.current = false;
        if (!newer) keepWaiting(id, null);
      } catch (error) {
        if (error instanceof Refusal && error.problem.code === "unreachable") {
          waiting.current ??= next;
          away.current = true;
          keepWaiting(id, { version, ...waiting.current });
          setWaits(true);
          await new Promise((resolve) => window.setTimeout(resolve, TRY_AGAIN_MS));
          continue;
        }
        waiting.current = null;
        keepWaiting(id, null);
        setWaits(false);
        await client.invalidateQueries({ queryKey: key });
        if (error instanceof Refusal && error.problem.code === "edit-clash") {
          const mine = () => {
            waiting.current = next;
            void again.current();
          };
          say(error.message, { text: "Use my edit after all", run: mine });
        } else say(error instanceof Refusal ? error.message : "That could not be kept.");
      }
    }
    busy.current = false;
    setSaving(false);
    if (behind.current) lookAgain();
  }, [accept, client, id, key, lookAgain, say]);

  useEffect(
    () =>
      onNews((topic) => {
        const [place, which] = topic.split("/");
        if (place === "sheets" && which !== String(id)) return;
        // An edit on its way is answered first: it then meets what others changed by its version.
        behind.current = true;
        if (!busy.current) lookAgain();
      }),
    [id, lookAgain],
  );

  useEffect(() => {
    again.current = send;
  }, [send]);

  const isHere = query.data !== undefined;
  useEffect(() => {
    const kept = isHere ? keptWaiting(id) : null;
    const now = client.getQueryData(key);
    if (!kept || !now || waiting.current) return;
    // Made from that version: what others changed since is met as in any other edit.
    accept({ ...now, version: kept.version, body: kept.body });
    waiting.current = { label: kept.label, body: kept.body };
    void again.current();
  }, [accept, client, id, isHere, key]);

  const edit = useCallback<Edit>(
    (label, change) => {
      const current = client.getQueryData(key);
      if (!current) return;
      const body = change(current.body);
      if (body === current.body) return;
      accept({ ...current, body });
      waiting.current = { label, body };
      if (away.current) keepWaiting(id, { version: current.version, label, body });
      void send();
    },
    [accept, client, id, key, send],
  );

  const step = useCallback(
    (way: "undo" | "redo") => {
      if (busy.current) return;
      ask<SheetView>(`/sheets/${id}/${way}`, { method: "POST" }).then(accept, (error: unknown) => {
        if (error instanceof Refusal && error.problem.code !== "not-found") say(error.message);
      });
    },
    [accept, id, say],
  );

  useEffect(() => {
    const flush = () => {
      const left = waiting.current;
      const version = client.getQueryData(key)?.version;
      // One that waits for the network is kept, and sent by the next page: never twice.
      if (left && version && !away.current) void putSheet(id, { version, ...left }, true);
    };
    window.addEventListener("pagehide", flush);
    return () => window.removeEventListener("pagehide", flush);
  }, [client, id, key]);

  return { sheet: query.data, error: query.error, saving, waits, edit, step, accept };
}
