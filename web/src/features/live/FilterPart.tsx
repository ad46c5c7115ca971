import { useQuery } from "@tanstack/react-query";

import { Select } from "../../ui/Field";
import { stops } from "../../ui/numbers";
import { filtersQuery } from "../sheet/queries";

const NONE = "";

interface Props {
  filter: string;
  onFilter: (id: string, stops: number) => void;
}

/** Which filter of the kit is on the lens: what is read through it is brighter by its stops. */
export function FilterPart({ filter, onFilter }: Props) {
  const { data: kit = [] } = useQuery(filtersQuery);
  if (kit.length === 0) return null;
  return (
    <div className="w-full max-w-64">
      <Select
        label="Filter on lens"
        value={filter}
        options={[
          { value: NONE, text: "None" },
          ...kit.map((known) => ({
            value: known.id,
            text: `${known.name}, ${stops(known.stops)}`,
          })),
        ]}
        onChange={(id) => onFilter(id, kit.find((known) => known.id === id)?.stops ?? 0)}
      />
    </div>
  );
}
