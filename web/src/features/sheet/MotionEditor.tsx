import { useQuery } from "@tanstack/react-query";

import type { Answer, Motion, SheetBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField, Select } from "../../ui/Field";
import { MoverFields } from "./MoverFields";
import { wishesQuery } from "./queries";
import type { Edit } from "./useSheetEditor";

const SHARP = [
  { value: "circle", text: "By circle of confusion" },
  { value: "pixel", text: "By pixels of the file" },
  { value: "output", text: "By pixels where it is seen" },
] as const;
const NEW: Motion = {
  subject: "walker",
  name: "",
  sharp: { by: "circle" },
  off_axis: 0.25,
  pan: null,
};
const PANNED = 0.06;

/** What moves and must be sharp. */
export function MotionEditor({ body, edit }: { body: SheetBody; answer: Answer; edit: Edit }) {
  const { data: wishes } = useQuery(wishesQuery);
  const change = (at: number, part: Partial<Motion>) =>
    edit("motion", (b) => ({
      ...b,
      motion: b.motion.map((one, index) => (index === at ? { ...one, ...part } : one)),
      held: null,
    }));
  return (
    <div className="grid gap-3">
      {body.motion.length === 0 && (
        <p className="text-soft">Nothing has to be frozen. Add what moves and must be sharp.</p>
      )}
      {body.motion.map((motion, at) => (
        <div key={at} className="grid gap-2">
          <MoverFields
            value={motion}
            movers={wishes?.movers ?? []}
            onChange={(part) => change(at, part)}
          />
          <div className="grid grid-cols-[1.6fr_1fr_1fr_1fr] items-end gap-2 max-md:grid-cols-2">
            <Select
              label="What counts as sharp"
              value={motion.sharp.by}
              options={SHARP}
              onChange={(by) => change(at, { sharp: { by } })}
            />
            <NumberField
              label={motion.sharp.by === "circle" ? "Diagonal over" : "Blur, px"}
              value={motion.sharp.value ?? (motion.sharp.by === "circle" ? 1500 : 2)}
              low={0.1}
              high={100000}
              onCommit={(value) => change(at, { sharp: { ...motion.sharp, value } })}
            />
            <Button
              aria-pressed={motion.pan !== null}
              onClick={() => change(at, { pan: motion.pan === null ? PANNED : null })}
              className="aria-pressed:bg-accent aria-pressed:text-on-accent"
            >
              Panned
            </Button>
            <Button
              onClick={() =>
                edit("remove motion", (b) => ({
                  ...b,
                  motion: b.motion.filter((_, index) => index !== at),
                  held: null,
                }))
              }
            >
              Remove
            </Button>
          </div>
        </div>
      ))}
      <Button
        className="justify-self-start"
        onClick={() =>
          edit("new motion", (b) => ({ ...b, motion: [...b.motion, NEW], held: null }))
        }
      >
        Add a mover
      </Button>
    </div>
  );
}
