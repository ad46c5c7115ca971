import type { MoverPreset } from "../../api/client";
import { NumberField, Select } from "../../ui/Field";

export interface MoverValues {
  subject?: string | null | undefined;
  name: string;
  speed_m_s?: number | null | undefined;
  distance_m?: number | null | undefined;
  direction_deg?: number | null | undefined;
}

interface Props {
  value: MoverValues;
  movers: MoverPreset[];
  onChange: (part: Partial<MoverValues>) => void;
}

/** What moves, how fast, how far away, which way. */
export function MoverFields({ value, movers, onChange }: Props) {
  const usual = movers.find((mover) => mover.id === value.subject);
  return (
    <div className="grid grid-cols-[1.6fr_1fr_1fr_1fr] gap-2 max-md:grid-cols-2">
      <Select
        label="What moves"
        value={value.subject ?? ""}
        options={movers.map((mover) => ({ value: mover.id, text: mover.name }))}
        onChange={(subject) =>
          onChange({ subject, speed_m_s: null, distance_m: null, direction_deg: null })
        }
      />
      <NumberField
        label="Speed"
        unit="m/s"
        value={value.speed_m_s ?? usual?.speed_m_s ?? null}
        low={0.001}
        high={1000}
        onCommit={(speed_m_s) => onChange({ speed_m_s })}
      />
      <NumberField
        label="Distance"
        unit="m"
        value={value.distance_m ?? usual?.distance_m ?? null}
        low={0.05}
        high={1e6}
        onCommit={(distance_m) => onChange({ distance_m })}
      />
      <NumberField
        label="Way, 90 across"
        unit="°"
        value={value.direction_deg ?? usual?.direction_deg ?? null}
        low={0}
        high={180}
        onCommit={(direction_deg) => onChange({ direction_deg })}
      />
    </div>
  );
}
