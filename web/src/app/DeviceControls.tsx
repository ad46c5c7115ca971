import { DropdownMenu } from "radix-ui";
import { useEffect, useState } from "react";

import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { type Theme, THEMES, useTheme } from "./theme";

const WORDS: Record<Theme, string> = {
  day: "Day",
  sun: "Sun: most contrast, larger",
  night: "Night: dark and red",
};

const SHORTCUTS: readonly [string, string][] = [
  ["?", "this list"],
  ["u, Shift u", "undo, redo"],
  ["1 to 9", "the line of the slip with that number: its instrument and settings"],
  ["n", "new spot in the middle of the picture"],
  ["Arrow keys on a spot", "move it; with Shift in larger steps"],
  ["+ and − on a spot", "make it larger or smaller"],
  ["Delete on a spot", "remove it"],
  ["← → on the map", "along the wanted exposure, shorter or longer"],
  ["Wheel on the map", "the same"],
  ["↑ ↓ on the map", "ISO alone: leaves the wanted exposure on purpose"],
  ["Home on the map", "back to the plan"],
  ["c", "copy the slip as text"],
];

function typing(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
}

/** Theme of this device, and the list of shortcuts. */
export function DeviceControls() {
  const [theme, setTheme] = useTheme();
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "?" && !typing(event.target)) setHelp(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="flex items-center gap-1">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <Button look="quiet" aria-label={`Theme: ${WORDS[theme]}`}>
            {theme === "day" ? "Day" : theme === "sun" ? "Sun" : "Night"}
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            className="z-40 min-w-56 rounded border border-strong bg-raised p-1"
          >
            <DropdownMenu.RadioGroup
              value={theme}
              onValueChange={(next) => setTheme(next as Theme)}
            >
              {THEMES.map((each) => (
                <DropdownMenu.RadioItem
                  key={each}
                  value={each}
                  className="flex min-h-10 items-center rounded px-3 outline-none data-highlighted:bg-sunk data-[state=checked]:font-semibold"
                >
                  {WORDS[each]}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Button
        look="quiet"
        aria-label="Keyboard shortcuts"
        className="max-[480px]:hidden"
        onClick={() => setHelp(true)}
      >
        ?
      </Button>
      <Dialog title="Keys" open={help} onOpenChange={setHelp}>
        <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
          {SHORTCUTS.map(([keys, words]) => (
            <div key={keys} className="contents">
              <dt className="font-semibold">{keys}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    </div>
  );
}
