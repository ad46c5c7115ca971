import { useEffect, useState } from "react";

import { isSingleKey } from "../ui/keys";
import { later } from "../ui/later";

const DeviceControls = later(() => import("./DeviceControls").then((all) => all.DeviceControls));

/**
 * Theme and help, whose script nobody waits for. Their place is kept free meanwhile, as wide as
 * the longest theme's name: a button beside it must not move from under a click.
 */
export function DeviceControlsLater() {
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "?" && isSingleKey(event)) setHelp(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="flex min-h-11 w-[6.4rem] justify-end max-[480px]:w-[5.6rem] max-[480px]:[&_button]:px-1.5!">
      <DeviceControls help={help} onHelp={setHelp} />
    </div>
  );
}
