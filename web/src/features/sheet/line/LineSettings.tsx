import type { SheetView } from "../../../api/client";
import { LimitBoard } from "../limits/LimitBoard";
import type { Edit } from "../useSheetEditor";
import { EXPOSURE, instrumentNamed } from "./instruments";
import { Explained } from "../../help/Explained";

interface Props {
  sheet: SheetView;
  edit: Edit;
  instrument: string;
  field: string;
  selected: string | null;
}

/** What must be known of the chosen line, and the settings beneath its instrument. */
export function LineSettings({ sheet, edit, instrument, field, selected }: Props) {
  const { body, answer } = sheet;
  const line = answer.lines.find((line) => line.field === field);
  const notes = line?.notes ?? [];
  const { Settings } = instrumentNamed(instrument, line);
  return (
    <div className="grid gap-3">
      {notes.length > 0 && (
        <ul className="grid gap-1 border-l-4 border-ink pl-2 leading-snug">
          {notes.map((note) => (
            <li key={note}>
              <Explained>{note}</Explained>
            </li>
          ))}
        </ul>
      )}
      {instrument === EXPOSURE ? (
        <LimitBoard key={field} {...{ body, answer, edit, field }} />
      ) : (
        <Settings {...{ sheet, edit, instrument, selected }} />
      )}
    </div>
  );
}
