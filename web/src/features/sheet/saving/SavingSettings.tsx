import type { EditorProps } from "../limits/LimitBoard";
import { AskField } from "../limits/AskField";

const FIELDS = ["strategy", "editing", "compression", "fps", "free_mb", "pictures"] as const;

/** What the choice of a file depends on. */
export function SavingSettings({ body, edit }: EditorProps) {
  return (
    <div className="grid grid-cols-3 gap-2 max-md:grid-cols-1">
      {FIELDS.map((name) => (
        <AskField
          key={name}
          {...{ body, edit, does: "what to save" }}
          path={["saving", name]}
          placeholder="not set"
        />
      ))}
      <AskField {...{ body, edit, does: "output" }} path={["output", "use"]} />
    </div>
  );
}
