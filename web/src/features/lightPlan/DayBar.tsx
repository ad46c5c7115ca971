import { Button } from "../../ui/Button";
import { Segmented } from "../../ui/Segmented";
import { dayAfter } from "./dayAxis";

const CLOUDS = [
  { value: "clear", text: "Clear" },
  { value: "partly", text: "Partly cloudy" },
  { value: "overcast", text: "Overcast" },
] as const;
export type Cloud = (typeof CLOUDS)[number]["value"];

interface Props {
  date: string;
  onDate: (date: string) => void;
  cloud?: Cloud;
  onCloud?: (cloud: Cloud) => void;
}

/** Which day, a step to either side, and under what sky. */
export function DayBar({ date, onDate, cloud, onCloud }: Props) {
  return (
    <div className="flex min-w-0 max-w-full flex-wrap items-center gap-2">
      <Button aria-label="Previous day" onClick={() => onDate(dayAfter(date, -1))}>
        ←
      </Button>
      <input
        type="date"
        aria-label="Day"
        className="field w-auto min-w-0 max-w-full tabular-nums"
        value={date}
        onChange={(event) => event.target.value && onDate(event.target.value)}
      />
      <Button aria-label="Next day" onClick={() => onDate(dayAfter(date, 1))}>
        →
      </Button>
      {cloud && onCloud && (
        <div className="w-80 max-w-full">
          <Segmented label="Sky" value={cloud} options={CLOUDS} onChange={onCloud} />
        </div>
      )}
    </div>
  );
}
