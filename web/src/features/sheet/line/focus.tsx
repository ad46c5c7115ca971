import { DepthStrip } from "../focus/DepthStrip";
import { FocusSettings } from "../focus/FocusSettings";
import { NoInstrument } from "./NoInstrument";
import type { DrawingProps, SettingsProps } from "./instruments";

export function Drawing({ body, answer, edit }: DrawingProps) {
  if (!answer.depth) return <NoInstrument answer={answer} />;
  return <DepthStrip strip={answer.depth} {...{ body, edit }} />;
}

export function Settings({ sheet, edit }: SettingsProps) {
  return <FocusSettings body={sheet.body} answer={sheet.answer} edit={edit} />;
}
