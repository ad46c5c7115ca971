import { PAGE } from "./client";

let made = 0;

/** A mark no other page makes, under which something is sent: once, however often it is sent. */
export function newMark(): string {
  made += 1;
  return `${PAGE}-${made}-${Date.now().toString(36)}`;
}
