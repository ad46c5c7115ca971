import { Link } from "wouter";

import type { SeriesOfSheet, SheetView } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { followAgain, updateSeries } from "./queries";
import { useSeries } from "./useSeries";

/** Which series a sheet is of, and what to do where it and its series differ. */
export function SeriesBand({ sheet, series }: { sheet: SheetView; series: SeriesOfSheet }) {
  const { isBusy, run } = useSeries();
  const leads = series.lead_id === sheet.id;
  const others = series.count - 1;
  const changed = series.changed.join(", ");
  return (
    <div
      role="status"
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-panel px-3 py-1 leading-snug"
    >
      <span>
        Series <b>{series.title}</b>, {series.count} {series.count === 1 ? "sheet" : "sheets"}.{" "}
        {leads ? (
          "This sheet leads."
        ) : (
          <>
            Settings from{" "}
            <Link href={`/sheets/${series.lead_id}`} className="underline">
              {series.lead_title}
            </Link>
            .
          </>
        )}
      </span>
      {changed && leads && others > 0 && (
        <Button
          disabled={isBusy}
          onClick={() => run(() => updateSeries(series.id), `${countOf(others)} updated.`)}
        >
          Update {countOf(others)}
        </Button>
      )}
      {changed && !leads && (
        <>
          <span>Changed here: {changed}.</span>
          <Button
            disabled={isBusy}
            onClick={() => run(() => followAgain(sheet.id), "Settings of the series are back.")}
          >
            Use series settings
          </Button>
        </>
      )}
    </div>
  );
}

const countOf = (count: number) => `${count} ${count === 1 ? "sheet" : "sheets"}`;
