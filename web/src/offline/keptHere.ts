/** How much a phone keeps: what was opened last, and pictures that wait to be sent. */

export const MOST_ANSWERS = 400;
export const MOST_PICTURES = 200;
export const MOST_WAITING = 60;
export const MOST_WAITING_BYTES = 400_000_000;
