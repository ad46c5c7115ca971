import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import type { SeriesOfSheet, SheetView } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { TextField } from "../../../ui/Field";
import { outingQuery } from "../../outings/queries";
import { MembersFields } from "./MembersFields";
import { namesIn } from "./names";
import { addMembers, endSeries, leaveSeries, renameSeries, seriesQuery } from "./queries";
import { useSeries } from "./useSeries";

interface Props {
  sheet: SheetView;
  series: SeriesOfSheet;
  onClose: () => void;
}

/** The sheets of a series, which of them differ, and more for it. */
export function SeriesMembers({ sheet, series, onClose }: Props) {
  const { data } = useQuery(seriesQuery(series.id));
  const { isBusy, run } = useSeries();
  const leads = series.lead_id === sheet.id;
  const rename = (title: string) =>
    title.trim() && run(() => renameSeries(series.id, title.trim()), "Series renamed.");
  return (
    <>
      <div className="mb-3">
        <TextField label="Series name" value={series.title} maxLength={120} onCommit={rename} />
      </div>
      <p className="mb-2 text-soft">Locked: {series.locked.join(" · ")}</p>
      <ol className="mb-3 max-h-[40dvh] overflow-y-auto rounded border border-line">
        {data?.sheets.map((member) => (
          <li key={member.id} className="border-b border-line last:border-b-0">
            <Link
              href={`/sheets/${member.id}`}
              onClick={onClose}
              aria-current={member.id === sheet.id ? "page" : undefined}
              className={`flex min-h-11 items-center gap-3 border-l-4 px-3 py-1 ${member.id === sheet.id ? "border-l-accent font-semibold" : "border-l-transparent"}`}
            >
              <span className="min-w-0 flex-1">{member.title}</span>
              <span className="text-[0.88rem] text-soft">
                {member.leads
                  ? "leads"
                  : member.changed.length > 0
                    ? `changed: ${member.changed.join(", ")}`
                    : member.state}
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <MoreSheets sheet={sheet} series={series} />
      <div className="flex flex-wrap gap-2 border-t border-line pt-3">
        {leads ? (
          <Button
            disabled={isBusy}
            onClick={() =>
              run(
                () => endSeries(series.id),
                "Series ended. Every sheet keeps its settings.",
                onClose,
              )
            }
          >
            End series
          </Button>
        ) : (
          <Button
            disabled={isBusy}
            onClick={() =>
              run(
                () => leaveSeries(sheet.id),
                "This sheet left the series and keeps its settings.",
                onClose,
              )
            }
          >
            Leave series
          </Button>
        )}
      </div>
    </>
  );
}

function MoreSheets({ sheet, series }: { sheet: SheetView; series: SeriesOfSheet }) {
  const { data: outing } = useQuery(outingQuery(sheet.outing_id));
  const others = outing?.sheets.filter((sheet) => !sheet.series) ?? [];
  const taken = outing?.sheets.map((sheet) => sheet.title) ?? [];
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const { isBusy, run } = useSeries();
  const names = namesIn(text);
  const count = names.length + chosen.length;
  const clear = () => {
    setText("");
    setChosen([]);
  };
  return (
    <details className="mb-3">
      <summary className="min-h-11 cursor-pointer content-center font-semibold">
        More sheets
      </summary>
      <MembersFields
        title={series.lead_title}
        {...{ taken, text, others, chosen }}
        onText={setText}
        onChosen={setChosen}
      />
      <Button
        disabled={count === 0 || isBusy}
        onClick={() =>
          run(
            () => addMembers(series.id, { new_titles: names, sheets: [...chosen] }),
            `“${series.title}” has ${series.count + count} sheets.`,
            clear,
          )
        }
      >
        Add {count || "no"} {count === 1 ? "sheet" : "sheets"}
      </Button>
    </details>
  );
}
