import type { ComponentProps } from "react";

import { type Look, LOOKS, SHAPE } from "./Button";

/** A link that looks like a button: to a file. */
export function ButtonLink({
  look = "plain",
  className = "",
  children,
  ...rest
}: ComponentProps<"a"> & { look?: Look }) {
  return (
    <a className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest}>
      {children}
    </a>
  );
}
