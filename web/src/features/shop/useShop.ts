import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

import { useSay } from "../../ui/Notices";
import { type Shop, shopQuery, sortTakes } from "./queries";

/** A sheet's shop series, its new takes sorted as they come, and how it is changed. */
export function useShop(sheet: number) {
  const client = useQueryClient();
  const say = useSay();
  const { data: shop, error } = useQuery(shopQuery(sheet));
  const tell = (now: Shop) => client.setQueryData(shopQuery(sheet).queryKey, now);
  const run = (change: () => Promise<Shop>) =>
    change().then(
      (now) => {
        tell(now);
        return true;
      },
      (why: unknown) => {
        say(why instanceof Error ? why.message : "That did not work. Try again.");
        return false;
      },
    );
  const again = () => client.invalidateQueries({ queryKey: shopQuery(sheet).queryKey });
  useSorted(shop ?? null, () => run(() => sortTakes(sheet)));
  return { shop, error, run, again };
}

/** New takes are sorted once they are here; where that fails, not again and again. */
function useSorted(shop: Shop | null, sort: () => Promise<boolean>) {
  const tried = useRef("");
  const unsorted = shop?.unsorted ?? 0;
  const state = `${unsorted} ${shop?.things.length ?? 0} ${shop?.spare.length ?? 0}`;
  useEffect(() => {
    if (unsorted === 0) tried.current = "";
    if (unsorted === 0 || tried.current === state) return;
    tried.current = state;
    void sort();
  });
}
