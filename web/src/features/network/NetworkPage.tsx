import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { Network } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { Select, TextField } from "../../ui/Field";
import { Devices, WaitingPhones } from "./Devices";
import { KeptHere } from "./KeptHere";
import { PairingCard } from "./PairingCard";
import { beginServing, endServing, meQuery, networkQuery } from "./queries";
import { clockTime } from "../../ui/numbers";

const MINUTES = [
  { value: "30", text: "30 min" },
  { value: "120", text: "2 hours" },
  { value: "480", text: "8 hours" },
  { value: "1440", text: "a day" },
] as const;
type Minutes = (typeof MINUTES)[number]["value"];

/** The phone: serving the network for a while, pairing, and the paired phones. */
export function NetworkPage() {
  const { data: me } = useQuery(meQuery);
  if (me?.is_phone)
    return (
      <main className="mx-auto max-w-[44rem] px-4 py-6">
        <h1 className="mb-3 text-2xl font-semibold">This phone</h1>
        <p>
          This phone is called {me.name}. It {me.may_change_kit ? "may" : "may not"} change the kit.
          You set what phones may do on the computer that runs Oxlen.
        </p>
        <KeptHere />
      </main>
    );
  return <OnTheComputer />;
}

function OnTheComputer() {
  const { data: network } = useQuery(networkQuery);
  const client = useQueryClient();
  const keep = (found: Network) => client.setQueryData(networkQuery.queryKey, found);
  const [minutes, setMinutes] = useState<Minutes>("120");
  const [secure, setSecure] = useState(true);
  const [name, setName] = useState("");
  const begin = useMutation({
    mutationFn: () => beginServing(Number(minutes), secure, name ? [name] : []),
    onSuccess: keep,
  });
  const end = useMutation({ mutationFn: endServing, onSuccess: keep });
  const isOn = (network?.urls.length ?? 0) > 0;
  const problem = begin.error ?? end.error;
  return (
    <main className="mx-auto max-w-[64rem] px-4 pb-16 md:px-6">
      <h1 className="py-5 text-2xl font-semibold">Oxlen on your phone</h1>
      {network && <WaitingPhones devices={network.devices} onChanged={keep} />}
      {problem && (
        <p role="alert" className="mb-3 rounded border-2 border-ink bg-raised p-2">
          {problem.message}
        </p>
      )}
      {network && isOn ? (
        <>
          <PairingCard network={network} atOnce={begin.isSuccess} />
          <section
            className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2 rounded border border-line bg-panel p-4"
            aria-label="Sharing"
          >
            <p className="mr-auto max-w-[62ch]">
              {network.who} Shared until <b>{clock(network.until)}</b> at{" "}
              <b>{network.urls.join(", ")}</b>
            </p>
            <Button onClick={() => end.mutate()}>Stop now</Button>
          </section>
        </>
      ) : (
        <section className="rounded border border-line bg-panel p-4" aria-label="Sharing">
          <h2 className="mb-2 text-lg font-semibold">Pair a phone</h2>
          <ol className="mb-4 grid list-decimal gap-1 pl-6 leading-snug">
            <li>Phone and computer join the same network.</li>
            <li>Show the code and scan it with the phone’s camera.</li>
            <li>Allow the phone here.</li>
          </ol>
          <Button
            look="main"
            className="min-h-12 px-6"
            disabled={begin.isPending || !network}
            onClick={() => begin.mutate()}
          >
            Show code
          </Button>
          <p className="mt-3 max-w-[62ch] text-soft">{network?.who ?? "Looking…"}</p>
          <details className="mt-2">
            <summary className="min-h-11 cursor-pointer content-center font-semibold">
              Share for {MINUTES.find((minute) => minute.value === minutes)?.text}
              {secure ? ", by https" : ", without encryption"}
            </summary>
            <div className="flex flex-wrap items-end gap-4 pt-1">
              <div className="w-40">
                <Select label="For" value={minutes} options={MINUTES} onChange={setMinutes} />
              </div>
              <div className="w-56">
                <TextField
                  label="Another name"
                  placeholder="e.g. yard.local"
                  value={name}
                  maxLength={80}
                  onCommit={(text) => setName(text.trim())}
                />
              </div>
              <CheckField label="Encrypt with https" checked={secure} onChange={setSecure} />
            </div>
          </details>
        </section>
      )}
      {network && <Devices devices={network.devices} onChanged={keep} />}
    </main>
  );
}

/** The time of day of a stamp, as people say it. */
function clock(stamp: string | null): string {
  if (stamp === null) return "";
  return clockTime(stamp);
}
