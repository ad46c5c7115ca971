/** What the worker tells open pages when the computer serves newer ones. */
export const NEWER = "newer-pages";
