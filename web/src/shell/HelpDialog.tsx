import { useState } from "react";
import { Link, useLocation } from "wouter";

import { CheckField } from "../ui/CheckField";
import { Dialog } from "../ui/Dialog";
import { singleKeys } from "../ui/keys";
import { type GuidePage, helpOf, KEYS, SHEET_KEYS } from "./helpPages";

const GUIDES: Record<GuidePage, string> = {
  plan: "Plan a picture",
  "at-the-spot": "At the spot",
  check: "Check what you shot",
  "long-exposure": "Long exposures and stacks",
  night: "Day and night",
  kit: "Kit",
};

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** What the page is for, its usual tasks, and the keys that work on it. */
export function HelpDialog({ open, onOpenChange }: Props) {
  const [location] = useLocation();
  const page = helpOf(location);
  const keys = page.name === "Sheet" ? [...KEYS, ...SHEET_KEYS] : KEYS;
  const [single, setSingle] = useState(singleKeys.get);
  const change = (on: boolean) => {
    singleKeys.set(on);
    setSingle(on);
  };
  const close = () => onOpenChange(false);
  return (
    <Dialog title={`${page.name}: what is it for?`} open={open} onOpenChange={onOpenChange}>
      <p>{page.what}</p>
      <ul className="mt-2 grid list-disc gap-1 pl-5">
        {page.tasks.map((task) => (
          <li key={task}>{task}</li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap gap-x-5">
        <GuideLink to={`/guide/${page.guide}`} onGo={close}>
          Guide: {GUIDES[page.guide]}
        </GuideLink>
        <GuideLink to="/words" onGo={close}>
          Glossary
        </GuideLink>
      </p>
      <div className="mt-3 border-t border-line pt-3 pointer-coarse:hidden">
        <h3 className="font-semibold">Keys</h3>
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
          {keys.map(([key, words]) => (
            <div key={key} className="contents">
              <dt className="font-semibold">{key}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
        <div className="mt-2">
          <CheckField label="Single-letter keys" checked={single} onChange={change} />
        </div>
      </div>
    </Dialog>
  );
}

interface LinkProps {
  to: string;
  onGo: () => void;
  children: React.ReactNode;
}

/** A link out of the dialog, which closes first: its own entry of the history must be gone. */
function GuideLink({ to, onGo, children }: LinkProps) {
  const [, go] = useLocation();
  const follow = (event: React.MouseEvent) => {
    if (event.metaKey || event.ctrlKey || event.shiftKey) return;
    event.preventDefault();
    window.addEventListener("popstate", () => go(to), { once: true });
    onGo();
  };
  return (
    <Link href={to} className="flex min-h-11 items-center underline" onClick={follow}>
      {children}
    </Link>
  );
}
