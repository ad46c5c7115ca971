import { DropdownMenu } from "radix-ui";
import { useCallback } from "react";

import { HelpDialog } from "./HelpDialog";
import { Button } from "../ui/Button";
import { useSay } from "../ui/Notices";
import { type Theme, THEMES, useTheme } from "./theme";

const WORDS: Record<Theme, string> = {
  auto: "Automatic: night after dusk at your outing",
  day: "Day",
  sun: "Sun: high contrast, larger",
  night: "Night: dark and red",
};

const NO_PLACE = "Set an outing’s location. The theme then follows its dusk.";
const SHORT: Record<Theme, string> = { auto: "Auto", day: "Day", sun: "Sun", night: "Night" };

interface Props {
  help: boolean;
  onHelp: (open: boolean) => void;
}

/** Theme of this device, and help for the page. */
export function DeviceControls({ help, onHelp }: Props) {
  const say = useSay();
  const onNoPlace = useCallback(() => say(NO_PLACE), [say]);
  const [theme, setTheme] = useTheme(onNoPlace);
  return (
    <div className="flex items-center gap-1">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <Button look="quiet" aria-label={`Theme: ${WORDS[theme]}`}>
            {SHORT[theme]}
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
                  className="flex min-h-11 items-center rounded px-3 outline-none data-highlighted:bg-sunk data-[state=checked]:font-semibold"
                >
                  {WORDS[each]}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Button look="quiet" aria-label="Help" onClick={() => onHelp(true)}>
        ?
      </Button>
      <HelpDialog open={help} onOpenChange={onHelp} />
    </div>
  );
}
