import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import {
  ask,
  isPassing,
  type MergedEdits,
  Refusal,
  type SheetBody,
  type SheetView,
} from "../../api/client";
import { newMark } from "../../api/marks";
import type { WaitingEdit } from "../../api/waitingStore";
import { onNews } from "../../api/news";
import { useSay } from "../../ui/Notices";
import { noteOpen } from "./leftEdits";
import { mergeEdits, putSheet, sheetQuery } from "./queries";
import { keepWaiting, keptWaiting } from "./waitingEdits";

type Change = (body: SheetBody) => SheetBody;
export type Edit = (label: string, change: Change) => void;

/** Two edits of the sheet that do not agree: mine, and what the computer holds by now. */
export interface EditClash {
  edit: WaitingEdit;
  found: MergedEdits;
}

export interface Editor {
  sheet: SheetView | undefined;
  error: Error | null;
  saving: boolean;
  /** Why edits wait on this device; they are sent once the computer can save them. */
  waits: string | null;
  edit: Edit;
  step: (way: "undo" | "redo") => void;
  accept: (sheet: SheetView) => void;
  clash: EditClash | null;
  /** Settle a clash: these places as in my edit, all others as the computer holds them. */
  settle: (keepMine: string[][]) => void;
  /** Decide later: my edit stays on this device and on screen. */
  postpone: () => void;
  /** Send what waits now. */
  send: () => void;
}

const TRY_AGAIN_MS = 1500;
/** What `waits` says while two edits wait for a decision. */
export const UNDECIDED = "Not saved yet: changed elsewhere too";

const isShutOut = (error: unknown) =>
  error instanceof Refusal && error.problem.code === "not-paired";

/**
 * A sheet being edited. The body changes at once on screen; edits are sent one at a time, the
 * latest standing for those that gathered meanwhile, and the answer follows from the server. What
 * others changed meanwhile is put together with it; where both changed the same, it is asked.
 */
export function useSheetEditor(id: number): Editor {
  const client = useQueryClient();
  const say = useSay();
  const query = useQuery(sheetQuery(id));
  const key = useMemo(() => sheetQuery(id).queryKey, [id]);
  const waiting = useRef<WaitingEdit | null>(null);
  const busy = useRef(false);
  const [saving, setSaving] = useState(false);
  const [waits, setWaits] = useState<string | null>(null);
  const [clash, setClash] = useState<EditClash | null>(null);

  const accept = useCallback((sheet: SheetView) => client.setQueryData(key, sheet), [client, key]);
  const wait = useCallback(
    (edit: WaitingEdit | null) => {
      waiting.current = edit;
      keepWaiting(id, edit);
    },
    [id],
  );

  const away = useRef(false);
  const behind = useRef(false);
  const lookAgain = useCallback(() => {
    behind.current = false;
    void client.invalidateQueries({ queryKey: key });
  }, [client, key]);

  /** Put an edit together with what others made of the sheet; whether it is to be sent again. */
  const meet = useCallback(
    async (next: WaitingEdit): Promise<boolean> => {
      const found = await mergeEdits(id, { before: next.before, mine: next.body });
      const theirs = await client.fetchQuery({ ...sheetQuery(id), staleTime: 0 });
      if (waiting.current !== next) return true; // edited on meanwhile
      if (found.clashes.length > 0) {
        // It stays on the disk until it is decided: a reload asks again.
        setClash({ edit: next, found });
        waiting.current = null;
        return false;
      }
      if (isSame(found.body, theirs.body)) {
        wait(null); // it had arrived: only the answer was lost
        return false;
      }
      say("This sheet was changed elsewhere too: both changes are in.");
      const { label, uid } = next;
      const { version, body } = found;
      wait({ uid, version, label, before: theirs.body, body, mark: newMark() });
      accept({ ...theirs, body });
      return true;
    },
    [accept, client, id, say, wait],
  );

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    setSaving(true);
    while (waiting.current) {
      const next: WaitingEdit = waiting.current;
      try {
        const kept = await putSheet(id, next);
        away.current = false;
        setWaits(null);
        // A newer edit on screen must not be replaced by the answer to an older one.
        const newer = waiting.current as WaitingEdit | null;
        if (newer && newer !== next) {
          wait({ ...newer, version: kept.version, before: kept.body });
          accept({ ...kept, body: newer.body });
        } else {
          wait(null);
          accept(kept);
        }
      } catch (error) {
        const latest = (waiting.current as WaitingEdit | null) ?? next;
        const isClash = error instanceof Refusal && error.problem.code === "edit-clash";
        const failed = isClash ? await meet(latest).then(() => null, asIs) : error;
        if (failed === null) continue;
        if (isPassing(failed) && !isShutOut(failed)) {
          away.current = true;
          setWaits(`Not saved yet: ${whyWaits(failed)}`);
          await new Promise((resolve) => window.setTimeout(resolve, TRY_AGAIN_MS));
          continue;
        }
        // Let in no more, the edit stays on this device, should it be paired again.
        if (isShutOut(failed)) waiting.current = null;
        else wait(null);
        setWaits(null);
        await client.invalidateQueries({ queryKey: key });
        say(failed instanceof Refusal ? failed.message : "That could not be kept.");
      }
    }
    busy.current = false;
    setSaving(false);
    if (behind.current) lookAgain();
  }, [accept, client, id, key, lookAgain, meet, say, wait]);

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

  useEffect(() => noteOpen(id), [id]);
  const isHere = query.data !== undefined;
  useEffect(() => {
    if (!isHere) return;
    void keptWaiting(id).then((kept) => {
      const now = client.getQueryData(key);
      if (!kept || kept.uid !== now?.uid || waiting.current) return;
      // Made from that version: what others changed since is met as in any other edit.
      accept({ ...now, body: kept.body });
      waiting.current = kept;
      void send();
    });
  }, [accept, client, id, isHere, key, send]);

  const edit = useCallback<Edit>(
    (label, change) => {
      const current = client.getQueryData(key);
      if (!current) return;
      const body = change(current.body);
      if (body === current.body) return;
      // What is being fetched was asked for before this edit and must not replace it on screen.
      if (client.isFetching({ queryKey: key, exact: true })) {
        behind.current = true;
        void client.cancelQueries({ queryKey: key, exact: true });
      }
      const { version, before } = waiting.current ?? {
        version: current.version,
        before: current.body,
      };
      accept({ ...current, body });
      wait({ uid: current.uid, version, label, before, body, mark: newMark() });
      void send();
    },
    [accept, client, key, send, wait],
  );

  const settle = useCallback(
    (keepMine: string[][]) => {
      if (!clash) return;
      const { edit: mine } = clash;
      setClash(null);
      mergeEdits(id, { before: mine.before, mine: mine.body, keep_mine: keepMine }).then(
        ({ body }) => edit(mine.label, () => body),
        (error: unknown) => {
          setClash(clash);
          say(error instanceof Refusal ? error.message : "That could not be kept.");
        },
      );
    },
    [clash, edit, id, say],
  );

  const postpone = useCallback(() => {
    const now = client.getQueryData(key);
    if (!clash || !now) return;
    setClash(null);
    accept({ ...now, body: clash.edit.body });
    waiting.current = clash.edit;
    away.current = true; // not sent by a closing page: it would only meet the same again
    setWaits(UNDECIDED);
  }, [accept, clash, client, key]);

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
      // One that waits for the network is sent by the next page; so is this, should it be lost.
      if (left && !away.current) void putSheet(id, left, true);
    };
    window.addEventListener("pagehide", flush);
    return () => window.removeEventListener("pagehide", flush);
  }, [id]);

  return {
    sheet: query.data,
    error: query.error,
    saving,
    waits,
    edit,
    step,
    accept,
    clash,
    settle,
    postpone,
    send: () => void send(),
  };
}

/** In a few words, why the computer cannot save an edit now. */
function whyWaits(error: unknown): string {
  if (!(error instanceof Refusal) || error.problem.status === 0) return "Oxlen does not answer";
  return error.problem.status === 507 ? "the computer's disk is full" : "the computer is busy";
}

const asIs = (error: unknown) => error;

function isSame(one: SheetBody, other: SheetBody): boolean {
  const inOrder = (body: SheetBody) => JSON.stringify(Object.entries(body).sort());
  return inOrder(one) === inOrder(other);
}
