import { useId } from "react";

import { later } from "../../ui/later";

const TermText = later(() => import("./TermText").then((all) => all.TermText));

interface Props {
  /** The glossary's entry. */
  id: string;
  children: string;
}

/** A word whose glossary entry opens in place; Escape or a touch elsewhere closes it. */
export function Term({ id, children }: Props) {
  const entry = useId();
  return (
    <>
      <button
        type="button"
        popoverTarget={entry}
        className="min-h-6 cursor-help max-[899px]:min-h-10 underline decoration-dotted underline-offset-4"
      >
        {children}
      </button>
      <span
        id={entry}
        popover="auto"
        className="inset-x-3 top-auto bottom-3 mx-auto max-w-md rounded border border-strong bg-panel p-4 text-left text-base font-normal text-ink shadow-lg"
      >
        <TermText id={id} />
      </span>
    </>
  );
}
