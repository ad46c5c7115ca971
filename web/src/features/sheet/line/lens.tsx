import { FramingFields, LensComparison } from "../limits/LensPart";
import { PhoneEditor } from "../limits/PhoneEditor";
import { NoInstrument } from "./NoInstrument";
import type { DrawingProps, SettingsProps } from "./instruments";

export function Drawing({ body, answer, edit }: DrawingProps) {
  if (!answer.plan) return <NoInstrument answer={answer} />;
  return <LensComparison {...{ body, answer, edit }} />;
}

export function Settings({ sheet, edit }: SettingsProps) {
  return (
    <>
      <FramingFields body={sheet.body} edit={edit} />
      <PhoneEditor body={sheet.body} answer={sheet.answer} edit={edit} />
    </>
  );
}
