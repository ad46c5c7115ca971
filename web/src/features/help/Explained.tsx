import { Fragment } from "react";

import { unbroken } from "../../ui/numbers";
import { Term } from "./Term";
import { partsOf } from "./terms";

/** A sentence whose glossary words open their entries in place. */
export function Explained({ children }: { children: string }) {
  return partsOf(unbroken(children)).map(({ text, id }, index) =>
    id === undefined ? (
      <Fragment key={index}>{text}</Fragment>
    ) : (
      <Term key={index} id={id}>
        {text}
      </Term>
    ),
  );
}
