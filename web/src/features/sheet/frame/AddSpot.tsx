import type { SheetBody } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useAsks } from "../limits/useAsks";
import type { Edit } from "../useSheetEditor";
import { newSpot } from "./spots";

const MIDDLE = { x: 0.5, y: 0.5 };

interface Props {
  body: SheetBody;
  onSelect: (id: string) => void;
  edit: Edit;
}

/** A spot without a pointer: it appears in the middle, and the arrow keys move it. */
export function AddSpot({ body, onSelect, edit }: Props) {
  const { spot: rules } = useAsks();
  if (!rules) return null;
  return (
    <Button
      className="shrink-0"
      onClick={() => {
        const spot = newSpot(body, rules, MIDDLE);
        edit("new spot", (current) => ({ ...current, spots: [...current.spots, spot] }));
        onSelect(spot.id);
        requestAnimationFrame(() =>
          document.querySelector<HTMLElement>(`[data-spot="${spot.id}"]`)?.focus(),
        );
      }}
    >
      Add spot
    </Button>
  );
}
