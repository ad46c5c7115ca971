import { useState } from "react";

import { TextField } from "../../ui/Field";
import { readShutter, writtenShutter } from "../sheet/light/readShutter";

interface Props {
  label: string;
  example: string;
  value: number | null;
  onCommit: (seconds: number | null) => void;
}

/** A shutter time as people write it: 1/8000, 0.5 or 10 s. */
export function ShutterField({ label, example, value, onCommit }: Props) {
  const [refused, setRefused] = useState(false);
  return (
    <TextField
      label={label}
      value={value === null ? "" : writtenShutter(value)}
      placeholder={`e.g. ${example}`}
      aria-invalid={refused || undefined}
      hint={refused && <span role="status">Write it as 1/8000 or as 10 s.</span>}
      onCommit={(text) => {
        const seconds = text.trim() === "" ? null : readShutter(text.trim());
        const bad = seconds !== null && !(seconds > 0 && seconds < 1e5);
        setRefused(bad);
        if (!bad) onCommit(seconds);
      }}
    />
  );
}
