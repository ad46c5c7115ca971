import type { SheetBody } from "../../api/client";

type Path = readonly (string | number)[];

/** A body with one value changed, the rest shared with the old one. */
export function withAt(body: SheetBody, path: Path, value: unknown): SheetBody {
  return changed(body, path, value) as SheetBody;
}

function changed(holder: unknown, path: Path, value: unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(holder))
    return holder.map((item: unknown, index) =>
      index === key ? changed(item, rest, value) : item,
    );
  const fields = (holder ?? {}) as Record<string, unknown>;
  return { ...fields, [key]: changed(fields[key], rest, value) };
}
