import { WarmthRibbon } from "../colour/WarmthRibbon";
import { WhiteSettings } from "../colour/WhiteSettings";
import { NoInstrument } from "./NoInstrument";
import type { DrawingProps, SettingsProps } from "./instruments";

export function Drawing({ answer, edit }: DrawingProps) {
  if (!answer.warmth) return <NoInstrument answer={answer} />;
  return <WarmthRibbon ribbon={answer.warmth} edit={edit} />;
}

export function Settings({ sheet, edit, selected }: SettingsProps) {
  const { body, answer } = sheet;
  return <WhiteSettings {...{ body, answer, edit, selected }} sheetId={sheet.id} />;
}
