import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import type { Network, PairingCode } from "../../api/client";
import { Button } from "../../ui/Button";
import { newCode } from "./queries";

/** A code for one phone, while it is good; and the certificate, for a phone to trust. */
export function PairingCard({ network, atOnce }: { network: Network; atOnce: boolean }) {
  const code = useMutation({ mutationFn: newCode });
  const { mutate } = code;
  useEffect(() => {
    if (atOnce) mutate();
  }, [atOnce, mutate]);
  const left = useSecondsLeft(code.data, code.submittedAt);
  // One that was used is done with: the list below has grown by the phone it paired.
  const [count, setCount] = useState(network.devices.length);
  if (count !== network.devices.length) {
    setCount(network.devices.length);
    if (network.devices.length > count) code.reset();
  }
  return (
    <section aria-label="Pair a phone" className="rounded border border-line bg-panel p-4">
      <h2 className="mb-2 text-lg font-semibold">Pair a phone</h2>
      {code.data && left > 0 ? (
        <div className="grid items-center gap-6 md:grid-cols-[17rem_1fr]">
          <img
            src={code.data.qr}
            alt="A code for the phone's camera: the address, with the six words"
            className="w-full max-w-[17rem] rounded bg-white p-2"
          />
          <div>
            <p className="mb-3 max-w-[46ch]">
              Scan the code with the phone’s camera. Or open <b>{network.urls[0]}/pair</b> on the
              phone and type these six words:
            </p>
            <ol className="mb-3 grid grid-cols-2 gap-x-6 gap-y-1 text-2xl font-semibold md:grid-cols-3">
              {code.data.words.map((word, place) => (
                <li key={`${place} ${word}`}>{word}</li>
              ))}
            </ol>
            <p role="timer" className="text-soft">
              Valid for {left} s, for one phone.
            </p>
          </div>
        </div>
      ) : (
        <p className="flex flex-wrap items-center gap-4">
          <span className="max-w-[52ch]">
            Phone and computer must be on the same network. A code is valid for 2 minutes and one
            phone.
          </span>
          <Button look="main" disabled={code.isPending} onClick={() => code.mutate()}>
            {code.data ? "New code" : "Show code"}
          </Button>
        </p>
      )}
      {code.error && (
        <p role="alert" className="mt-3 rounded border-2 border-ink bg-raised p-2">
          {code.error.message}
        </p>
      )}
      {network.fingerprint && <Certificate url={network.urls[0]} print={network.fingerprint} />}
    </section>
  );
}

function Certificate({ url, print }: { url: string | undefined; print: string }) {
  return (
    <details className="mt-4 border-t border-line pt-2">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        Certificate warning on the phone?
      </summary>
      <p className="mb-2 max-w-[62ch]">
        This computer made it, so the phone does not know it. To remove the warning and install
        Oxlen on the phone, open <b>{url}/authority.crt</b> there and install the file as a
        certificate authority. Compare its fingerprint (SHA-256) with this one. It is valid for
        private addresses only. You can remove it in the phone’s settings.
      </p>
      <p className="max-w-[62ch] rounded bg-raised p-3 leading-relaxed tabular-nums">{print}</p>
    </details>
  );
}

/** Whole seconds that a code is still good for; 0 once it is not. */
function useSecondsLeft(code: PairingCode | undefined, askedAt: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!code) return;
    setNow(Date.now());
    const timer = window.setInterval(() => setNow(Date.now()), 1000);
    return () => window.clearInterval(timer);
  }, [code]);
  return code ? Math.max(0, Math.ceil(code.valid_s - (now - askedAt) / 1000)) : 0;
}
