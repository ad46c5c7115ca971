/** The instrument of a line that has none of its own: its value, its reason, its fields. */

import { OtherAsk } from "../limits/OtherAsks";
import { useAsks } from "../limits/useAsks";
import { NoInstrument } from "./NoInstrument";
import type { DrawingProps, SettingsProps } from "./instruments";

export function Drawing({ answer, line }: DrawingProps) {
  if (!line) return <NoInstrument answer={answer} />;
  return (
    <p className="grid gap-2 p-4">
      <b className="text-3xl">{line.value}</b>
      <span>{line.reason}</span>
    </p>
  );
}

export function Settings({ sheet, edit, instrument }: SettingsProps) {
  const { body, answer } = sheet;
  const asks = useAsks().asks.filter((ask) => ask.instrument === instrument);
  return asks.map((ask) => <OtherAsk key={ask.name} {...{ ask, body, answer, edit }} />);
}
