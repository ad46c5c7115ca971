import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { ask, isPassing, Refusal, type SheetBody, type SheetView } from "../../api/client";
import { newMark } from "../../api/marks";
import type { WaitingEdit } from "../../api/waitingStore";
import { onNews } from "../../api/changeEvents";
import { useSay } from "../../ui/Notices";
import { AT_REST, type EditClash, type EditEvent, editing } from "./editing";
import { noteOpen } from "./leftEdits";
import { mergeEdits, putSheet, sheetQuery } from "./queries";
import { keepWaiting, keptWaiting } from "./waitingEdits";

type Change = (body: SheetBody) => SheetBody;
export type Edit = (label: string, change: Change) => void;

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

const NOT_KEPT = "That could not be saved. Try again.";

const isRefusal = (error: unknown, code: string) =>
  error instanceof Refusal && error.problem.code === code;
const isUnpaired = (error: unknown) => isRefusal(error, "not-paired");
const isEditClash = (error: unknown) => isRefusal(error, "edit-clash");

/**
 * A sheet being edited. The body changes at once on screen; edits are sent one at a time, the
 * latest including those that gathered meanwhile, and the answer follows from the server. What
 * others changed meanwhile is merged with it; where both changed the same, it is asked.
 */
export function useSheetEditor(id: number): Editor {
  const client = useQueryClient();
  const say = useSay();
  const query = useQuery(sheetQuery(id));
  const key = useMemo(() => sheetQuery(id).queryKey, [id]);
  const { state, now, apply } = useEditing(id);

  const accept = useCallback((sheet: SheetView) => client.setQueryData(key, sheet), [client, key]);
  const lookAgain = useCallback(() => {
    apply({ type: "looked again" });
    void client.invalidateQueries({ queryKey: key });
  }, [apply, client, key]);

  /** Put an edit together with what others made of the sheet. */
  const meet = useCallback(
    async (mine: WaitingEdit): Promise<void> => {
      const found = await mergeEdits(id, { before: mine.before, mine: mine.body });
      const theirs = await client.fetchQuery({ ...sheetQuery(id), staleTime: 0 });
      if (now().waiting !== mine) return; // edited on meanwhile
      if (found.clashes.length > 0) return apply({ type: "clashed", clash: { edit: mine, found } });
      // It had arrived: only the answer was lost.
      if (isSame(found.body, theirs.body)) return apply({ type: "kept already" });
      say("This sheet was changed elsewhere too: both changes are in.");
      const { version, body } = found;
      const merged = { ...mine, version, before: theirs.body, body, mark: newMark() };
      apply({ type: "merged", edit: merged });
      accept({ ...theirs, body });
    },
    [accept, apply, client, id, now, say],
  );

  const sendOne = useCallback(
    async (mine: WaitingEdit) => {
      const kept = await putSheet(id, mine);
      apply({ type: "kept", edit: mine, version: kept.version, body: kept.body });
      // A newer edit on screen must not be replaced by the answer to an older one.
      const newer = now().waiting;
      accept(newer ? { ...kept, body: newer.body } : kept);
    },
    [accept, apply, id, now],
  );

  /** What follows when an edit was not kept; whether sending goes on. */
  const failed = useCallback(
    async (error: unknown): Promise<void> => {
      if (isPassing(error) && !isUnpaired(error)) {
        apply({ type: "delayed", why: `Not saved yet: ${whyWaits(error)}` });
        await new Promise((resolve) => window.setTimeout(resolve, TRY_AGAIN_MS));
        return;
      }
      apply({ type: isUnpaired(error) ? "unpaired" : "refused" });
      await client.invalidateQueries({ queryKey: key });
      say(error instanceof Refusal ? error.message : NOT_KEPT);
    },
    [apply, client, key, say],
  );

  const send = useCallback(async () => {
    if (now().sending) return;
    apply({ type: "began" });
    for (let next = now().waiting; next; next = now().waiting) {
      try {
        await sendOne(next);
      } catch (error) {
        const latest = now().waiting ?? next;
        await (isEditClash(error) ? meet(latest).catch(failed) : failed(error));
      }
    }
    apply({ type: "rested" });
    if (now().behind) lookAgain();
  }, [apply, failed, lookAgain, meet, now, sendOne]);

  useEffect(
    () =>
      onNews((topic) => {
        const [place, which] = topic.split("/");
        if (place === "sheets" && which !== String(id)) return;
        // An edit on its way is answered first: it then meets what others changed by its version.
        apply({ type: "changed elsewhere" });
        if (!now().sending) lookAgain();
      }),
    [apply, id, lookAgain, now],
  );

  useEffect(() => noteOpen(id), [id]);
  const isHere = query.data !== undefined;
  useEffect(() => {
    if (!isHere) return;
    void keptWaiting(id).then((kept) => {
      const sheet = client.getQueryData(key);
      if (!kept || kept.uid !== sheet?.uid || now().waiting) return;
      // Made from that version: what others changed since is met as in any other edit.
      accept({ ...sheet, body: kept.body });
      apply({ type: "restored", edit: kept });
      void send();
    });
  }, [accept, apply, client, id, isHere, key, now, send]);

  const edit = useCallback<Edit>(
    (label, change) => {
      const current = client.getQueryData(key);
      if (!current) return;
      const body = change(current.body);
      if (body === current.body) return;
      // What is being fetched was asked for before this edit and must not replace it on screen.
      if (client.isFetching({ queryKey: key, exact: true })) {
        apply({ type: "changed elsewhere" });
        void client.cancelQueries({ queryKey: key, exact: true });
      }
      const { version, before } = now().waiting ?? {
        version: current.version,
        before: current.body,
      };
      accept({ ...current, body });
      const made = { uid: current.uid, version, label, before, body, mark: newMark() };
      apply({ type: "edited", edit: made });
      void send();
    },
    [accept, apply, client, key, now, send],
  );

  const settle = useCallback(
    (keepMine: string[][]) => {
      const { clash } = now();
      if (!clash) return;
      const { edit: mine } = clash;
      apply({ type: "decided" });
      mergeEdits(id, { before: mine.before, mine: mine.body, keep_mine: keepMine }).then(
        ({ body }) => edit(mine.label, () => body),
        (error: unknown) => {
          apply({ type: "clashed", clash });
          say(error instanceof Refusal ? error.message : NOT_KEPT);
        },
      );
    },
    [apply, edit, id, now, say],
  );

  const postpone = useCallback(() => {
    const sheet = client.getQueryData(key);
    const { clash } = now();
    if (!clash || !sheet) return;
    accept({ ...sheet, body: clash.edit.body });
    apply({ type: "postponed", why: UNDECIDED });
  }, [accept, apply, client, key, now]);

  const step = useCallback(
    (way: "undo" | "redo") => {
      if (now().sending) return;
      ask<SheetView>(`/sheets/${id}/${way}`, { method: "POST" }).then(accept, (error: unknown) => {
        if (error instanceof Refusal && error.problem.code !== "not-found") say(error.message);
      });
    },
    [accept, id, now, say],
  );

  useEffect(() => {
    const flush = () => {
      const { waiting, held } = now();
      if (waiting && !held) void putSheet(id, waiting, true);
    };
    window.addEventListener("pagehide", flush);
    return () => window.removeEventListener("pagehide", flush);
  }, [id, now]);

  const { sending: saving, waits, clash } = state;
  const shown = { sheet: query.data, error: query.error, saving, waits, clash };
  return { ...shown, edit, step, accept, settle, postpone, send: () => void send() };
}

/** The state of a sheet's edits: shown as it changes, and asked for between two frames. */
function useEditing(id: number) {
  const latest = useRef(AT_REST);
  const [state, setState] = useState(AT_REST);
  const now = useCallback(() => latest.current, []);
  const apply = useCallback(
    (event: EditEvent) => {
      const before = latest.current;
      latest.current = editing(before, event);
      if (latest.current.stored !== before.stored) keepWaiting(id, latest.current.stored);
      setState(latest.current);
    },
    [id],
  );
  return { state, now, apply };
}

/** In a few words, why the computer cannot save an edit now. */
function whyWaits(error: unknown): string {
  if (!(error instanceof Refusal) || error.problem.status === 0) return "Oxlen does not answer";
  return error.problem.status === 507 ? "the computer's disk is full" : "the computer is busy";
}

function isSame(item: SheetBody, other: SheetBody): boolean {
  const inOrder = (body: SheetBody) => JSON.stringify(Object.entries(body).sort());
  return inOrder(item) === inOrder(other);
}
