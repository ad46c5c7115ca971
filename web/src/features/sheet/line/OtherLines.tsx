/** Instruments and settings of all lines but ISO and shutter, in a script of their own. */

import type { Answer, SheetBody, SheetView } from "../../../api/client";
import { WarmthRibbon } from "../colour/WarmthRibbon";
import { WhiteSettings } from "../colour/WhiteSettings";
import { DepthStrip } from "../focus/DepthStrip";
import { FocusSettings } from "../focus/FocusSettings";
import { FramingFields, LensComparison } from "../limits/LensPart";
import { PhoneEditor } from "../limits/PhoneEditor";
import { SavingBars } from "../saving/SavingBars";
import { SavingSettings } from "../saving/SavingSettings";
import type { Edit } from "../useSheetEditor";
import type { InstrumentId } from "./useChosenLine";

type Other = Exclude<InstrumentId, "exposure">;

interface DrawingProps {
  instrument: Other;
  sheetId: number;
  body: SheetBody;
  answer: Answer;
  edit: Edit;
}

/** The instrument of a line, or why there is none. */
export function OtherDrawing({ instrument, sheetId, body, answer, edit }: DrawingProps) {
  if (instrument === "lens" && answer.plan) return <LensComparison {...{ body, answer, edit }} />;
  if (instrument === "white" && answer.warmth)
    return <WarmthRibbon ribbon={answer.warmth} edit={edit} />;
  if (instrument === "focus" && answer.depth)
    return <DepthStrip strip={answer.depth} {...{ body, edit }} />;
  if (instrument === "save" && answer.saving)
    return <SavingBars saving={answer.saving} {...{ sheetId, body, edit }} />;
  return <NoInstrument answer={answer} />;
}

function NoInstrument({ answer }: { answer: Answer }) {
  return (
    <p className="p-4 text-soft">
      {answer.why_no_plan ?? "This phone leaves white balance to itself."}
    </p>
  );
}

interface SettingsProps {
  instrument: Other;
  sheet: SheetView;
  edit: Edit;
  selected: string | null;
}

/** The settings beneath that instrument. */
export function OtherSettings({ instrument, sheet, edit, selected }: SettingsProps) {
  const props = { body: sheet.body, answer: sheet.answer, edit };
  switch (instrument) {
    case "lens":
      return (
        <>
          <FramingFields body={sheet.body} edit={edit} />
          <PhoneEditor {...props} />
        </>
      );
    case "white":
      return <WhiteSettings {...props} sheetId={sheet.id} selected={selected} />;
    case "focus":
      return <FocusSettings {...props} />;
    case "save":
      return <SavingSettings {...props} />;
  }
}
