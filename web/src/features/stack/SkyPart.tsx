import type { Stack, StackAsked } from "../../api/client";
import { CheckField } from "../../ui/CheckField";
import { Select } from "../../ui/Field";
import { HorizonPart } from "./HorizonPart";
import { LandPart } from "./LandPart";

interface Props {
  set: Stack;
  asked: StackAsked;
  onChange: (part: Partial<StackAsked>) => void;
  onAddTakes: (takes: number[]) => void;
}

/** For stars: the line under which the foreground stays still, and the frame with the lens covered. */
export function SkyPart({ set, asked, onChange, onAddTakes }: Props) {
  const hasLine = asked.align === "stars" || asked.close_gaps || asked.land.length > 0;
  const isSky = asked.align === "stars" || asked.combine === "lighten";
  return (
    <div className="grid gap-3">
      {asked.combine === "lighten" && asked.align === "none" && (
        <CheckField
          label="Close trail gaps"
          checked={asked.close_gaps}
          onChange={(close_gaps) => onChange({ close_gaps })}
        />
      )}
      {isSky && set.frames > 0 && (
        <LandPart set={set} asked={asked} onChange={onChange} onAddTakes={onAddTakes} />
      )}
      {hasLine && set.frames > 0 && <HorizonPart set={set} asked={asked} onChange={onChange} />}
      <Select
        label="Dark frame"
        value={asked.dark ?? ""}
        options={[
          { value: "", text: "None" },
          ...set.names.map((name) => ({ value: name, text: name })),
        ]}
        onChange={(name) => onChange({ dark: name === "" ? null : name })}
      />
    </div>
  );
}
