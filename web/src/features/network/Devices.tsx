import { useMutation } from "@tanstack/react-query";

import type { Device, Network } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { TextField } from "../../ui/Field";
import { changeDevice, confirmDevice, revokeAll, revokeDevice } from "./queries";
import { dayAndTime } from "../../ui/numbers";

interface Props {
  devices: Device[];
  onChanged: (network: Network) => void;
}

/** The paired phones: when they were last here, what they may do, and unpairing them. */
export function Devices({ devices, onChanged }: Props) {
  const change = useMutation({
    mutationFn: (work: () => Promise<Network>) => work(),
    onSuccess: onChanged,
  });
  const paired = devices.filter((device) => device.is_confirmed);
  return (
    <section aria-label="Paired phones" className="mt-4 rounded border border-line bg-panel p-4">
      <div className="mb-1 flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-lg font-semibold">Paired phones</h2>
        {paired.length > 1 && (
          <Button onClick={() => change.mutate(revokeAll)}>Unpair all phones</Button>
        )}
      </div>
      {paired.length === 0 && <p className="text-soft">None yet.</p>}
      <ul>
        {paired.map((device) => (
          <li key={device.id} className="flex flex-wrap items-end gap-4 border-t border-line py-3">
            <div className="w-48">
              <TextField
                label="Name"
                value={device.name}
                maxLength={60}
                onCommit={(name) =>
                  change.mutate(() => changeDevice(device.id, name, device.may_change_kit))
                }
              />
            </div>
            <CheckField
              label="Can change kit"
              checked={device.may_change_kit}
              onChange={(may) => change.mutate(() => changeDevice(device.id, device.name, may))}
            />
            <span className="mr-auto pb-2 text-soft">
              last here {dayAndTime(device.last_seen_at)}, paired {dayAndTime(device.paired_at)}
            </span>
            <Button onClick={() => change.mutate(() => revokeDevice(device.id))}>Unpair</Button>
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

/** Phones that knew the words and wait to be allowed. */
export function WaitingPhones({ devices, onChanged }: Props) {
  const change = useMutation({
    mutationFn: (work: () => Promise<Network>) => work(),
    onSuccess: onChanged,
  });
  return devices
    .filter((device) => !device.is_confirmed)
    .map((device) => (
      <Waiting
        key={device.id}
        device={device}
        onAllow={() => change.mutate(() => confirmDevice(device.id))}
        onRefuse={() => change.mutate(() => revokeDevice(device.id))}
      />
    ));
}

interface WaitingProps {
  device: Device;
  onAllow: () => void;
  onRefuse: () => void;
}

/** A phone that knew the words, and waits for the yes of whoever sits at the computer. */
function Waiting({ device, onAllow, onRefuse }: WaitingProps) {
  return (
    <section
      role="alert"
      aria-label={`${device.name} wants to pair`}
      className="mb-4 flex flex-wrap items-center gap-4 rounded border-2 border-accent bg-panel p-4"
    >
      <p className="mr-auto">
        <b className="text-lg">{device.name}</b> wants to pair
        <span className="block text-soft">
          from {device.paired_from || "an unknown address"}, {dayAndTime(device.paired_at)}. Allow
          it only if it is yours.
        </span>
      </p>
      <Button look="main" className="min-h-12" onClick={onAllow}>
        Allow
      </Button>
      <Button className="min-h-12" onClick={onRefuse}>
        Refuse
      </Button>
    </section>
  );
}
