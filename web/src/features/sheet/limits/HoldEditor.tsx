import { Labelled } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";
import { useAsks } from "./useAsks";

const SUPPORT = ["support"];

/** Support, how many tries, how much shake is accepted. */
export function HoldEditor({ body, edit }: EditorProps) {
  const { field } = useAsks();
  const supports = field(SUPPORT)?.choices ?? [];
  const own = { body, edit, does: "holding" };
  return (
    <div className="grid gap-2">
      <Labelled label="Support">
        {() => (
          <Segmented
            label="Support"
            value={body.support}
            options={supports.map((support) => ({
              value: support.value as typeof body.support,
              text: support.text.charAt(0).toUpperCase() + support.text.slice(1),
            }))}
            onChange={(support) => edit("support", (b) => ({ ...b, support, steps_by_hand: null }))}
          />
        )}
      </Labelled>
      {body.support !== "tripod" && (
        <div className="grid grid-cols-3 gap-2">
          <AskField {...own} path={["hold", "burst"]} />
          <AskField {...own} path={["hold", "stabiliser_stops"]} placeholder="same as lens" />
          <AskField {...own} path={["hold", "risk_stops"]} />
        </div>
      )}
    </div>
  );
}
