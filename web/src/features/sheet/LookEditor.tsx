import { useQuery } from "@tanstack/react-query";

import type { Answer, Look, SheetBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField, Select } from "../../ui/Field";
import { MoverFields } from "./MoverFields";
import { wishesQuery } from "./queries";
import type { Edit } from "./useSheetEditor";

const NEW: Look = { look: "texture", subject: "sluice", name: "", background_stops: -2 };

/** Motion that is meant to show, and how. */
export function LookEditor({ body, edit }: { body: SheetBody; answer: Answer; edit: Edit }) {
  const { data: wishes } = useQuery(wishesQuery);
  const looks = wishes?.looks ?? [];
  const change = (at: number, part: Partial<Look>) =>
    edit("look", (b) => ({
      ...b,
      looks: b.looks.map((one, index) => (index === at ? { ...one, ...part } : one)),
      held: null,
    }));
  return (
    <div className="grid gap-3">
      {body.looks.length === 0 && (
        <p className="text-soft">No motion is meant to show. Add water, lamps, a panned ground.</p>
      )}
      {body.looks.map((look, at) => {
        const usual = looks.find((one) => one.id === look.look);
        const least = look.share_min ?? usual?.share_min ?? null;
        const most = look.share_max ?? usual?.share_max ?? null;
        return (
          <div key={at} className="grid gap-2">
            <MoverFields
              value={look}
              movers={wishes?.movers ?? []}
              onChange={(part) => change(at, part)}
            />
            <div className="grid grid-cols-[1.6fr_1fr_1fr_auto] items-start gap-2 max-md:grid-cols-2">
              <Select
                label="Look"
                hint={usual?.words}
                value={look.look}
                options={looks.map((one) => ({ value: one.id as Look["look"], text: one.name }))}
                onChange={(next) => change(at, { look: next, share_min: null, share_max: null })}
              />
              {look.look === "vanish" ? (
                <>
                  <NumberField
                    label="Its length"
                    unit="m"
                    value={look.width_m ?? null}
                    low={0.001}
                    high={10000}
                    placeholder="usual"
                    onCommit={(width_m) => change(at, { width_m })}
                  />
                  <NumberField
                    label="Against ground"
                    unit="stops"
                    value={look.background_stops}
                    low={-12}
                    high={12}
                    onCommit={(stops) => change(at, { background_stops: stops ?? -2 })}
                  />
                </>
              ) : (
                <>
                  <NumberField
                    label="Least, × height"
                    value={least}
                    low={0.001}
                    high={most ?? 1000}
                    onCommit={(share_min) => change(at, { share_min })}
                  />
                  <NumberField
                    label="Most, × height"
                    value={most}
                    low={least ?? 0.001}
                    high={1000}
                    onCommit={(share_max) => change(at, { share_max })}
                  />
                </>
              )}
              <Button
                className="mt-5"
                onClick={() =>
                  edit("remove look", (b) => ({
                    ...b,
                    looks: b.looks.filter((_, index) => index !== at),
                    held: null,
                  }))
                }
              >
                Remove
              </Button>
            </div>
          </div>
        );
      })}
      <div className="flex flex-wrap items-end gap-3">
        <Button
          onClick={() => edit("new look", (b) => ({ ...b, looks: [...b.looks, NEW], held: null }))}
        >
          Add a look
        </Button>
        <div className="w-32">
          <NumberField
            label="Frames averaged"
            value={body.frames.count}
            low={1}
            high={2000}
            onCommit={(count) =>
              edit("frames", (b) => ({
                ...b,
                frames: { ...b.frames, count: Math.round(count ?? 1) },
                held: null,
              }))
            }
          />
        </div>
      </div>
    </div>
  );
}
