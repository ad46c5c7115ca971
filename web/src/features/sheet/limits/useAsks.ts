import { useQuery } from "@tanstack/react-query";

import type { Ask, EditableField } from "../../../api/client";
import { asksQuery } from "../queries";
import type { Path } from "./bodyPath";

/** What may be asked for, by name, with its fields and defaults; empty until it is known. */
export function useAsks() {
  const { data } = useQuery(asksQuery);
  const asks = data?.asks ?? [];
  return {
    asks,
    roles: data?.roles ?? [],
    spot_roles: data?.spot_roles ?? [],
    spot: data?.spot ?? null,
    place: data?.place ?? null,
    instruments: data?.instruments ?? {},
    seriesParts: data?.series_parts ?? [],
    ask: (name: string): Ask | undefined => asks.find((ask) => ask.name === name),
    /** The field at a path of the body; places in a list do not matter. */
    field: (path: Path): EditableField | undefined => fieldAt(asks, path),
  };
}

function fieldAt(asks: Ask[], path: Path): EditableField | undefined {
  const keys = path.filter((key) => typeof key === "string").join(".");
  const own = asks.find((ask) => ask.name === path[0]);
  return own?.fields.find((field) => field.path.join(".") === keys);
}
