import type { SheetView } from "../../../api/client";
import { WhiteSettings } from "../colour/WhiteSettings";
import { FocusSettings } from "../focus/FocusSettings";
import { FramingFields } from "../limits/LensPart";
import { LimitBoard } from "../limits/LimitBoard";
import { PhoneEditor } from "../limits/PhoneEditor";
import { SavingSettings } from "../saving/SavingSettings";
import type { Edit } from "../useSheetEditor";
import type { InstrumentId } from "./useChosenLine";

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
  const props = { body, answer, edit };
  return (
    <div className="grid gap-3">
      {notes.length > 0 && (
        <ul className="grid gap-1 border-l-4 border-ink pl-2 leading-snug">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
      {instrument === "lens" && (
        <>
          <FramingFields body={body} edit={edit} />
          <PhoneEditor {...props} />
        </>
      )}
      {instrument === "exposure" && <LimitBoard {...props} />}
      {instrument === "white" && (
        <WhiteSettings {...props} sheetId={sheet.id} selected={selected} />
      )}
      {instrument === "focus" && <FocusSettings {...props} />}
      {instrument === "save" && <SavingSettings {...props} />}
    </div>
  );
}
