import { useQuery } from "@tanstack/react-query";

import { clipOnsQuery } from "../sheet/queries";
import { KitDrawer } from "./KitDrawer";
import { dropItem, keepClipOn } from "./queries";
import { useKept } from "./useKept";

/** The clip-on lenses of the kit, with their power and the lens each goes over. */
export function ClipOnDrawer() {
  const { data: clipOns = [] } = useQuery(clipOnsQuery);
  const done = useKept(clipOnsQuery.queryKey);
  return (
    <KitDrawer
      title="Clip-on lenses"
      add="Add a clip-on"
      items={clipOns.map(({ id, clip_on }) => ({
        id,
        name: clip_on.name,
        facts: `${clip_on.dioptres} dioptres · ${clip_on.lens ? `over ${clip_on.lens}` : "over any lens"}`,
      }))}
      asked={[{ label: "Power, dioptres", low: 0.5, high: 100, placeholder: "e.g. 10" }]}
      onAdd={(id, name, [dioptres]) =>
        dioptres != null && done(keepClipOn(id, { name, dioptres, lens: "" }))
      }
      onDrop={(id) => done(dropItem("clip-ons", id))}
    />
  );
}
