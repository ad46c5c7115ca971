import { DropdownMenu } from "radix-ui";

import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { type Theme, THEMES, useTheme } from "./theme";

const WORDS: Record<Theme, string> = {
  day: "Day",
  sun: "Sun: high contrast, larger",
  night: "Night: dark and red",
};

const SHORTCUTS: readonly [string, string][] = [
  ["?", "this list"],
  ["u, Shift u", "undo, redo"],
  ["1 to 9", "the slip line with that number"],
  ["n", "new spot in the centre"],
  ["Arrow keys on a spot", "move it; with Shift in larger steps"],
  ["+ and − on a spot", "make it larger or smaller"],
  ["Delete on a spot", "remove it"],
  ["← → on the map", "along the wanted exposure, shorter or longer"],
  ["Wheel on the map", "the same"],
  ["↑ ↓ on the map", "ISO alone (changes the exposure)"],
  ["Home on the map", "back to the plan"],
  ["c", "copy the slip as text"],
];

interface Props {
  help: boolean;
  onHelp: (open: boolean) => void;
}

/** Theme of this device, and the list of shortcuts. */
export function DeviceControls({ help, onHelp }: Props) {
  const [theme, setTheme] = useTheme();
  return (
    <div className="flex items-center gap-1 max-[480px]:w-full">
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
        onClick={() => onHelp(true)}
      >
        ?
      </Button>
      <Dialog title="Keys" open={help} onOpenChange={onHelp}>
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
