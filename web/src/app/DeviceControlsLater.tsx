import { later } from "../ui/later";

const DeviceControls = later(() => import("./DeviceControls").then((all) => all.DeviceControls));

/** Theme and shortcuts, whose script nobody waits for; its place is kept free meanwhile. */
export function DeviceControlsLater() {
  return (
    <div className="min-h-10 min-w-12">
      <DeviceControls />
    </div>
  );
}
