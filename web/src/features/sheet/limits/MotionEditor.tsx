import { useQuery } from "@tanstack/react-query";

import type { Motion } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { usualQuery } from "../queries";
import { AskField } from "./AskField";
import { without } from "./bodyPath";
import type { EditorProps } from "./LimitBoard";
import { MoverFields } from "./MoverFields";
import { useAsks } from "./useAsks";

/** What moves and must be sharp. */
export function MotionEditor({ body, edit }: EditorProps) {
  const { ask, field } = useAsks();
  const { data: usual } = useQuery(usualQuery);
  const panned = field(["motion", "pan"])?.usual ?? null;
  const add = () => {
    const entry = ask("motion")?.entry as Motion | undefined;
    if (entry)
      edit("new motion", (b) => ({ ...b, motion: [...b.motion, entry], steps_by_hand: null }));
  };
  const pan = (at: number, share: number | null) =>
    edit("motion", (b) => ({
      ...b,
      motion: b.motion.map((motion, index) => (index === at ? { ...motion, pan: share } : motion)),
      steps_by_hand: null,
    }));
  return (
    <div className="grid gap-3">
      {body.motion.length === 0 && (
        <p className="text-soft">Nothing to freeze. Add what moves and must be sharp.</p>
      )}
      {body.motion.map((motion, at) => {
        const measure = usual?.sharp.find((item) => item.by === motion.sharp.by);
        const own = { body, edit, does: "motion" };
        return (
          <div key={at} className="grid gap-2">
            <MoverFields {...own} path={["motion", at]} />
            <div className="grid grid-cols-[1.6fr_1fr_1fr_1fr] items-end gap-2 max-md:grid-cols-2">
              <AskField
                {...own}
                label="Sharpness"
                path={["motion", at, "sharp", "by"]}
                also={(b) => ({
                  ...b,
                  motion: b.motion.map((motion, index) =>
                    index === at ? { ...motion, sharp: { by: motion.sharp.by } } : motion,
                  ),
                })}
              />
              <AskField
                {...own}
                label={measure?.label ?? "Sharpness"}
                path={["motion", at, "sharp", "value"]}
                usual={measure?.usual}
              />
              <Button
                aria-pressed={motion.pan !== null}
                onClick={() => pan(at, motion.pan === null ? panned : null)}
                className="aria-pressed:bg-accent aria-pressed:text-on-accent"
              >
                Panned
              </Button>
              <Button
                onClick={() =>
                  edit("remove motion", (b) => ({
                    ...without(b, "motion", at),
                    steps_by_hand: null,
                  }))
                }
              >
                Remove
              </Button>
            </div>
          </div>
        );
      })}
      <Button className="justify-self-start" onClick={add}>
        Add mover
      </Button>
    </div>
  );
}
