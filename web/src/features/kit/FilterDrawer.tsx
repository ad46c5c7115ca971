import { useQuery } from "@tanstack/react-query";

import { filtersQuery } from "../sheet/queries";
import { KitDrawer } from "./KitDrawer";
import { deleteFilter, keepFilter } from "./queries";
import { useKept } from "./useKept";
import { stops } from "../../ui/numbers";

/** The filters of the kit, with the factor each takes the light down by. */
export function FilterDrawer() {
  const { data: filters = [] } = useQuery(filtersQuery);
  const done = useKept(filtersQuery.queryKey);
  return (
    <KitDrawer
      title="Filters"
      add="Add a filter"
      items={filters.map((filter) => ({
        id: filter.id,
        name: filter.name,
        facts: `${stops(filter.stops)}${filter.note && ` · ${filter.note}`}`,
      }))}
      asked={[{ label: "Factor", low: 1, high: 1e7, placeholder: "e.g. 64" }]}
      onAdd={(id, name, [factor]) =>
        factor != null && done(keepFilter({ id, name, factor, note: "" }))
      }
      onDrop={(id) => done(deleteFilter(id))}
    />
  );
}
