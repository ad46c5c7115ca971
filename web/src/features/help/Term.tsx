import { useEffect, useId, useRef, useState } from "react";

import { later } from "../../ui/later";

const TermText = later(() => import("./TermText").then((all) => all.TermText));
/** How long a mouse rests on a word before its entry opens. */
const REST_MS = 450;

interface Props {
  /** The glossary's entry. */
  id: string;
  children: string;
}

/** A word whose glossary entry opens in place by a tap, a key, or a mouse that rests on it. */
export function Term({ id, children }: Props) {
  const entry = useId();
  const box = useRef<HTMLSpanElement>(null);
  const word = useRef<HTMLButtonElement>(null);
  const waiting = useRef(0);
  const isHovered = useRef(false);
  const [isOpen, setOpen] = useState(false);
  useEffect(() => () => window.clearTimeout(waiting.current), []);
  const rest = () => {
    waiting.current = window.setTimeout(() => {
      if (box.current?.matches(":popover-open")) return;
      isHovered.current = true;
      word.current?.click();
    }, REST_MS);
  };
  const leave = () => {
    window.clearTimeout(waiting.current);
    if (isHovered.current) box.current?.hidePopover();
    isHovered.current = false;
  };
  return (
    <>
      <button
        ref={word}
        type="button"
        popoverTarget={entry}
        popoverTargetAction="show"
        className="term bare cursor-help underline decoration-dotted underline-offset-4"
        onPointerEnter={(event) => event.pointerType === "mouse" && rest()}
        onPointerLeave={leave}
        onClick={(event) => {
          if (event.isTrusted) isHovered.current = false;
          window.clearTimeout(waiting.current);
        }}
      >
        {children}
      </button>
      <span
        ref={box}
        id={entry}
        popover="auto"
        onToggle={(event) => setOpen(event.newState === "open")}
        className="term-entry rounded border border-strong bg-panel p-4 text-left text-base font-normal text-ink shadow-lg"
      >
        {isOpen && <TermText id={id} />}
      </span>
    </>
  );
}
