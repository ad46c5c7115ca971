import { useQueryClient } from "@tanstack/react-query";

import { ask, type SheetView } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";

/** One click makes the phone that took a sheet's picture one's own, and the sheet's phone. */
export function MakeItMine({ sheet }: { sheet: SheetView }) {
  const client = useQueryClient();
  const say = useSay();
  const keep = () =>
    ask<SheetView>(`/sheets/${sheet.id}/phone`, { method: "POST" }).then(
      async (changed) => {
        client.setQueryData(["sheet", sheet.id], changed);
        await client.invalidateQueries({ queryKey: ["phones"] });
        say(`${changed.answer.phone_name} is in your kit. You can measure it there.`);
      },
      (error: unknown) => say(error instanceof Error ? error.message : String(error)),
    );
  return (
    <span className="ml-3 inline-block">
      <Button onClick={() => void keep()}>Add to kit</Button>
    </span>
  );
}
