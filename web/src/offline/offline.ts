import { useSyncExternalStore } from "react";

import { NEWER } from "./newer";

const STORES = ["oxlen-page", "oxlen-parts", "oxlen-pictures", "oxlen-answers"];
/** What pages of sheets ask for besides the sheet itself. */
const ALWAYS = ["me", "asks", "tones", "light-levels", "usual", "presets", "situations"];
const OF_THE_KIT = ["phones", "glass", "lamps", "clip-ons"];
const listeners = new Set<() => void>();
let keptAt: string | null = null;

/**
 * Whether this phone keeps pages: off without https, where the browser cannot, or where it does not
 * trust the computer's certificate; unknown until it was tried.
 */
export type Keeping = "unknown" | "on" | "plain" | "unable" | "untrusted";
let keeping: Keeping = "unknown";

function noteKeeping(now: Keeping): void {
  keeping = now;
  for (const listener of listeners) listener();
}

/** Whether this phone keeps pages for the time without a network. */
export const useKeeping = (): Keeping => useSyncExternalStore(listen, () => keeping);

function listen(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

let begun: () => void = () => undefined;
/** Comes true once what is fetched is kept on this phone; never where nothing is. */
export const isKeeping = new Promise<void>((resolve) => {
  begun = resolve;
});

/** Note where an answer came from: the phone's own store, with its date, or the computer (null). */
export function noteSource(kept: string | null): void {
  if (kept === keptAt) return;
  keptAt = kept;
  for (const listener of listeners) listener();
}

/** Since when what is shown is the phone's own copy; null while the computer answers. */
export function useKeptSince(): string | null {
  return useSyncExternalStore(listen, () => keptAt);
}

/** Whether the computer itself answers, whatever this phone has of it. */
export async function isAnswering(): Promise<boolean> {
  try {
    return (await fetch("/api/me", { cache: "no-store" })).ok;
  } catch {
    return false;
  }
}

/** Hear when the computer serves newer pages than this one; the function it gives stops that. */
export function onNewer(listener: () => void): () => void {
  if (!("serviceWorker" in navigator)) return () => undefined;
  const hear = (event: MessageEvent<unknown>) => {
    if (event.data === NEWER) listener();
  };
  navigator.serviceWorker.addEventListener("message", hear);
  return () => navigator.serviceWorker.removeEventListener("message", hear);
}

/**
 * Keep Oxlen on this phone: the page, its parts, and what is opened from now on. Whether that is
 * new: what was asked before is then to be asked once more, so that it is kept too.
 */
export async function keepHere(): Promise<boolean> {
  if (!window.isSecureContext) noteKeeping("plain");
  else if (!("serviceWorker" in navigator)) noteKeeping("unable");
  if (keeping === "plain" || keeping === "unable") return false;
  const isNew = navigator.serviceWorker.controller === null;
  const inCharge = new Promise<void>((resolve) => {
    navigator.serviceWorker.addEventListener("controllerchange", () => resolve(), { once: true });
  });
  try {
    await navigator.serviceWorker.register("/sw.js", { type: "module" });
  } catch (error) {
    // Whoever clicked the warning away sees pages, but no browser keeps any for them.
    if (error instanceof DOMException && error.name === "SecurityError") noteKeeping("untrusted");
    throw error;
  }
  noteKeeping("on");
  if (isNew) await inCharge;
  begun();
  await (await caches.open("oxlen-page")).add(new Request("/", { cache: "reload" }));
  const parts = await fetch("/parts.json").then((answer) => answer.json() as Promise<string[]>);
  const answers = [...ALWAYS, ...OF_THE_KIT.map((name) => `kit/${name}`)].map(
    (name) => `/api/${name}`,
  );
  await fetchAll([...answers, "/theme.js", ...parts]);
  return isNew;
}

const AT_ONCE = 6;

/** Fetch names a few at a time, so that they are kept; one that fails is fetched when it is asked. */
async function fetchAll(names: readonly string[]): Promise<void> {
  const left = [...names];
  const next = async (): Promise<void> => {
    for (let name = left.shift(); name !== undefined; name = left.shift())
      await fetch(name).catch(() => undefined);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, next));
}

/**
 * Forget what is kept of the computer on this phone: it was put out. Its own edits and pictures that
 * were not sent yet stay, should it be paired again.
 */
export async function forgetHere(): Promise<void> {
  if ("caches" in window) await Promise.all(STORES.map((name) => caches.delete(name)));
}
