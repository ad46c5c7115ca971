import { useMutation } from "@tanstack/react-query";

import type { Device, Network } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { TextField } from "../../ui/Field";
import { changeDevice, revokeAll, revokeDevice } from "./queries";

interface Props {
  devices: Device[];
  onChanged: (network: Network) => void;
}

/** The phones let in: when they were last here, what they may do, and putting them out. */
export function Devices({ devices, onChanged }: Props) {
  const change = useMutation({
    mutationFn: (work: () => Promise<Network>) => work(),
    onSuccess: onChanged,
  });
  return (
    <section aria-label="Paired phones" className="mt-4 rounded border border-line bg-panel p-4">
      <div className="mb-1 flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-lg font-semibold">Paired phones</h2>
        {devices.length > 1 && (
          <Button onClick={() => change.mutate(revokeAll)}>Let none of them in any more</Button>
        )}
      </div>
      {devices.length === 0 && <p className="text-soft">None yet.</p>}
      <ul>
        {devices.map((one) => (
          <li key={one.id} className="flex flex-wrap items-end gap-4 border-t border-line py-3">
            <div className="w-48">
              <TextField
                label="Name"
                value={one.name}
                maxLength={60}
                onCommit={(name) =>
                  change.mutate(() => changeDevice(one.id, name, one.may_change_kit))
                }
              />
            </div>
            <CheckField
              label="May change the kit"
              checked={one.may_change_kit}
              onChange={(may) => change.mutate(() => changeDevice(one.id, one.name, may))}
            />
            <span className="mr-auto pb-2 text-soft">
              last here {when(one.last_seen_at)}, paired {when(one.paired_at)}
            </span>
            <Button onClick={() => change.mutate(() => revokeDevice(one.id))}>
              Let it in no more
            </Button>
          </li>
        ))}
      </ul>
      {change.error && (
        <p role="alert" className="mt-2 rounded border-2 border-ink bg-raised p-2">
          {change.error.message}
        </p>
      )}
    </section>
  );
}

function when(stamp: string): string {
  const options = { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" } as const;
  return new Date(stamp).toLocaleString([], options);
}
