import { useQueries } from "@tanstack/react-query";
import { useState } from "react";

import { kindsQuery, measurementsQuery, portraitQuery } from "../phone/queries";
import { clipOnsQuery, filtersQuery, lampsQuery, phonesQuery } from "../sheet/queries";
import { unreadableQuery } from "./queries";

const DRAWERS = [phonesQuery, unreadableQuery, filtersQuery, lampsQuery, clipOnsQuery, kindsQuery];

/** Whether all of the kit has come once. It is drawn whole, so that no drawer pushes another down. */
export function useKitHere(phone: string | undefined): boolean {
  const [wasHere, setWasHere] = useState(false);
  const ofPhone = phone === undefined ? [] : [portraitQuery(phone), measurementsQuery(phone)];
  const isHere = useQueries({
    queries: [...DRAWERS, ...ofPhone],
    combine: (all) => all.every((query) => !query.isPending),
  });
  if (isHere && phone !== undefined && !wasHere) setWasHere(true);
  return wasHere || isHere;
}
