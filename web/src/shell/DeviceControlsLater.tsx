import { useEffect, useState } from "react";

import { later } from "../ui/later";

const DeviceControls = later(() => import("./DeviceControls").then((all) => all.DeviceControls));

/**
 * Theme and shortcuts, whose script nobody waits for. Their place is kept free meanwhile, as wide as
 * the longest theme's name: a button beside it must not move from under a click.
 */
export function DeviceControlsLater() {
  const [help, setHelp] = useState(false);
  useEffect(() => {
    const onKey = ({ key, target }: KeyboardEvent) => {
      const typing =
        target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
      if (key === "?" && !typing) setHelp(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <div className="flex min-h-10 w-[6.4rem] justify-end max-[480px]:w-[3.1rem] max-[480px]:[&_button]:w-full max-[480px]:[&_button]:px-1!">
      <DeviceControls help={help} onHelp={setHelp} />
    </div>
  );
}
