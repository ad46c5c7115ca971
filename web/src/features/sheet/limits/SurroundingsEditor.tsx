import type { SheetBody } from "../../../api/client";
import { CheckField } from "../../../ui/CheckField";
import { AskField } from "./AskField";
import type { EditorProps } from "./LimitBoard";
import { useAsks } from "./useAsks";

type Hazard = SheetBody["surroundings"]["has"][number];

/** What is around the picture: whose light it is, the footing, and what calls for care. */
export function SurroundingsEditor({ body, edit }: EditorProps) {
  const hazards = useAsks().field(["surroundings", "has"])?.choices ?? [];
  const own = { body, edit, does: "surroundings" };
  const scene = body.surroundings;
  const toggle = (hazard: Hazard, on: boolean) =>
    edit("surroundings", (b) => {
      const others = b.surroundings.has.filter((item) => item !== hazard);
      return { ...b, surroundings: { ...b.surroundings, has: on ? [...others, hazard] : others } };
    });
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-[repeat(auto-fit,minmax(12rem,1fr))] gap-2">
        <AskField {...own} path={["surroundings", "lit_by"]} />
        <AskField {...own} path={["surroundings", "stand"]} />
        {scene.stand !== "ground" && (
          <AskField {...own} path={["surroundings", "stand_deg_s"]} placeholder="usual" />
        )}
      </div>
      <fieldset>
        <legend className="mb-1 text-[0.82rem] text-soft">
          What is around. Names of spots and movers count too.
        </legend>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-x-3">
          {hazards.map((hazard) => (
            <CheckField
              key={hazard.value}
              label={hazard.text}
              checked={scene.has.includes(hazard.value as Hazard)}
              onChange={(on) => toggle(hazard.value as Hazard, on)}
            />
          ))}
        </div>
      </fieldset>
    </div>
  );
}
