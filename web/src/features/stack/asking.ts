/** What a stack is asked on this page, while its changes are on their way to the computer. */
export interface Asking<T> {
  asked: T;
  /** What the computer last reported as kept. */
  kept: T;
  /** Changes sent and not yet answered. */
  sending: number;
}

export type AskingEvent<T> =
  | { type: "changed"; part: Partial<T> }
  | { type: "answered"; kept: T | null }
  | { type: "found"; kept: T };

export const asking = <T>(kept: T): Asking<T> => ({ asked: kept, kept, sending: 0 });

/**
 * A choice shows at once. An answer to an earlier choice never undoes a later one: what the
 * computer keeps is shown again once nothing more is on its way.
 */
export function nextAsking<T>(state: Asking<T>, event: AskingEvent<T>): Asking<T> {
  if (event.type === "changed") {
    const asked = { ...state.asked, ...event.part };
    return { ...state, asked, sending: state.sending + 1 };
  }
  const kept = event.kept ?? state.kept;
  const sending = event.type === "answered" ? state.sending - 1 : state.sending;
  return { kept, sending, asked: sending > 0 ? state.asked : kept };
}
