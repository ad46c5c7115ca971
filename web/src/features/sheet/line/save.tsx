import { SavingBars } from "../saving/SavingBars";
import { SavingSettings } from "../saving/SavingSettings";
import { NoInstrument } from "./NoInstrument";
import type { DrawingProps, SettingsProps } from "./instruments";

export function Drawing({ sheetId, body, answer, edit }: DrawingProps) {
  if (!answer.saving) return <NoInstrument answer={answer} />;
  return <SavingBars saving={answer.saving} {...{ sheetId, body, edit }} />;
}

export function Settings({ sheet, edit }: SettingsProps) {
  return <SavingSettings body={sheet.body} answer={sheet.answer} edit={edit} />;
}
