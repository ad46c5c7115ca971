import type { ComponentProps } from "react";

export type Look = "plain" | "main" | "quiet";

export const LOOKS: Record<Look, string> = {
  plain: "border border-strong bg-raised hover:bg-sunk",
  main: "border border-accent bg-accent text-on-accent hover:brightness-110",
  quiet: "border border-transparent hover:bg-sunk",
};

export const SHAPE =
  "inline-flex min-h-9 max-[899px]:min-h-11 items-center justify-center gap-2 rounded px-3 py-1 text-[0.95rem] leading-tight disabled:opacity-45";

/** A button; `main` is the one thing to do on a view. */
export function Button({
  look = "plain",
  className = "",
  ...rest
}: ComponentProps<"button"> & { look?: Look }) {
  return <button type="button" className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest} />;
}
