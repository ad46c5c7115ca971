import { useEffect, useState } from "react";

import { later } from "../ui/later";

const DeviceControls = later(() => import("./DeviceControls").then((all) => all.DeviceControls));

/** Theme and shortcuts, whose script nobody waits for; its place is kept free meanwhile. */
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
    <div className="min-h-10 min-w-12">
      <DeviceControls help={help} onHelp={setHelp} />
    </div>
  );
}
