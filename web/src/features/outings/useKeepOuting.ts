import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { ask, type OutingView, type SheetView } from "../../api/client";
import { isKeeping } from "../../offline/offline";
import { meQuery } from "../network/queries";

const MOST_SHEETS = 24;

/** On a phone: an outing that is looked at is kept there, sheets, pictures and tables. */
export function useKeepOuting(outing: OutingView): void {
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const ids = outing.sheets.map((sheet) => sheet.id).join(" ");
  useEffect(() => {
    if (!isPhone || ids === "") return undefined;
    const stop = new AbortController();
    const { signal } = stop;
    const keep = async () => {
      await isKeeping;
      for (const id of ids.split(" ").slice(0, MOST_SHEETS).map(Number)) {
        const sheet = await ask<SheetView>(`/sheets/${id}`, { signal });
        await ask(`/sheets/${id}/light-table`, { signal });
        if (sheet.body.picture)
          await fetch(`/api/pictures/${sheet.body.picture}/preview`, { signal });
      }
    };
    keep().catch(() => undefined); // what could not be kept is fetched when it is wanted
    return () => stop.abort();
  }, [isPhone, ids]);
}
