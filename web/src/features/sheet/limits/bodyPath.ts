import type { SheetBody } from "../../../api/client";

/** Keys and places in lists, from the body down. */
export type Path = readonly (string | number)[];

/** A body with one value changed, the rest shared with the old one. */
export function withAt(body: SheetBody, path: Path, value: unknown): SheetBody {
  return changed(body, path, value) as SheetBody;
}

/** What a body holds at a path; undefined where there is nothing. */
export function valueAt(body: SheetBody, path: Path): unknown {
  return path.reduce<unknown>(
    (holder, key) =>
      holder === null || holder === undefined
        ? undefined
        : (holder as Record<string | number, unknown>)[key],
    body,
  );
}

/** A body without one entry of a list. */
export function without(body: SheetBody, list: string, index: number): SheetBody {
  const entries = valueAt(body, [list]) as unknown[];
  return withAt(
    body,
    [list],
    entries.filter((_, at) => at !== index),
  );
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
