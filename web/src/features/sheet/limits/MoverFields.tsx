import { useQuery } from "@tanstack/react-query";

import type { SheetBody } from "../../../api/client";
import { usualQuery } from "../queries";
import type { Edit } from "../useSheetEditor";
import { AskField } from "./AskField";
import { type Path, valueAt, withAt } from "./bodyPath";

interface Props {
  body: SheetBody;
  edit: Edit;
  /** The mover's place in the body: the list it is in, and which of it. */
  path: Path;
  does: string;
}

/** What moves, how fast, how far away, which way. */
export function MoverFields({ body, edit, path, does }: Props) {
  const { data } = useQuery(usualQuery);
  const subject = valueAt(body, [...path, "subject"]);
  const usual = data?.movers.find((mover) => mover.id === subject);
  const own = { body, edit, does };
  // Another mover comes with its own usual numbers.
  const afresh = (b: SheetBody) =>
    ["speed_m_s", "distance_m", "direction_deg"].reduce(
      (rest, key) => withAt(rest, [...path, key], null),
      b,
    );
  return (
    <div className="grid grid-cols-[1.6fr_1fr_1fr_1fr] gap-2 max-md:grid-cols-2">
      <AskField {...own} path={[...path, "subject"]} also={afresh} />
      <AskField {...own} path={[...path, "speed_m_s"]} usual={usual?.speed_m_s} />
      <AskField {...own} path={[...path, "distance_m"]} usual={usual?.distance_m} />
      <AskField {...own} path={[...path, "direction_deg"]} usual={usual?.direction_deg} />
    </div>
  );
}
