import type { SheetView } from "../../../api/client";
import { later } from "../../../ui/later";
import { LimitBoard } from "../limits/LimitBoard";
import type { Edit } from "../useSheetEditor";
import type { InstrumentId } from "./useChosenLine";

const OtherSettings = later(() => import("./OtherLines").then((all) => all.OtherSettings));

interface Props {
  sheet: SheetView;
  edit: Edit;
  instrument: InstrumentId;
  field: string;
  selected: string | null;
}

/** What must be known of the chosen line, and the settings beneath its instrument. */
export function LineSettings({ sheet, edit, instrument, field, selected }: Props) {
  const { body, answer } = sheet;
  const notes = answer.lines.find((line) => line.field === field)?.notes ?? [];
  return (
    <div className="grid gap-3">
      {notes.length > 0 && (
        <ul className="grid gap-1 border-l-4 border-ink pl-2 leading-snug">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
      {instrument === "exposure" ? (
        <LimitBoard body={body} answer={answer} edit={edit} />
      ) : (
        <OtherSettings {...{ instrument, sheet, edit, selected }} />
      )}
    </div>
  );
}
