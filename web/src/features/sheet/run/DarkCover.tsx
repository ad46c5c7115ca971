import { useState } from "react";

import { Button } from "../../../ui/Button";

interface Props {
  /** What is shown on it, as faint as can be read by eyes used to the dark. */
  words: string;
}

/** All of the screen black while frames are counted: a touch anywhere brings it back. */
export function DarkCover({ words }: Props) {
  const [isDark, setDark] = useState(false);
  if (!isDark)
    return (
      <Button className="min-h-12" onClick={() => setDark(true)}>
        Darken the screen
      </Button>
    );
  return (
    <button
      type="button"
      className="fixed inset-0 z-50 grid place-items-end bg-black p-6 text-left text-lg text-[#7a1500] tabular-nums"
      onClick={() => setDark(false)}
    >
      {words}. Touch to light the screen.
    </button>
  );
}
