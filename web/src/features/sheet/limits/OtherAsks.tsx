import { Link, useLocation } from "wouter";

import type { Ask } from "../../../api/client";
import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";

/** The fields of an ask that has no editor of its own yet. */
export function OtherAsk({ ask, body, edit }: EditorProps & { ask: Ask }) {
  const [place] = useLocation();
  return (
    <div className="grid grid-cols-3 gap-2">
      {ask.name === "drawing" && (
        <Link href={`${place}/drawing`} className="col-span-3 underline underline-offset-4">
          Plan the drawing: a word or shape, the lamp, and a rehearsal
        </Link>
      )}
      {ask.fields.map((field) => (
        <AskField
          key={field.path.join(".")}
          {...{ body, edit, does: ask.label.toLowerCase() }}
          path={field.path}
        />
      ))}
    </div>
  );
}
