import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type InboxEntry, type OutingView } from "../../api/client";

interface Props {
  proposed: InboxEntry["proposed"];
  onChoose: (sheet: number) => void;
}

/** Any other sheet: those proposed next first, then all of the newest outings. */
export function SheetChoice({ proposed, onChoose }: Props) {
  const [wanted, setWanted] = useState(false);
  const { data: outings = [] } = useQuery({
    queryKey: ["outings", "for-inbox"],
    queryFn: () => ask<OutingView[]>("/outings"),
    enabled: wanted,
  });
  return (
    <select
      aria-label="Another sheet"
      className="field w-44"
      value=""
      onFocus={() => setWanted(true)}
      onChange={(event) => event.target.value && onChoose(Number(event.target.value))}
    >
      <option value="">Another sheet…</option>
      {proposed.map((sheet) => (
        <option key={`p${sheet.sheet_id}`} value={sheet.sheet_id}>
          {sheet.title} ({sheet.why})
        </option>
      ))}
      {outings.map((outing) => (
        <optgroup key={outing.id} label={outing.title}>
          {outing.sheets.map((sheet) => (
            <option key={sheet.id} value={sheet.id}>
              {sheet.title}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
