import { type Keeping, useKeeping } from "../../offline/offline";
import {
  MOST_ANSWERS,
  MOST_PICTURES,
  MOST_WAITING,
  MOST_WAITING_BYTES,
} from "../../offline/keptHere";
import { WaitingHere } from "./WaitingHere";

const OFF: Record<Exclude<Keeping, "on" | "unknown">, string> = {
  plain: "This page was opened without https. Pair this phone again with https on.",
  unable: "This browser cannot save pages. Open Oxlen in the phone's own browser.",
  untrusted:
    "This phone does not trust the computer's certificate yet. Install it once, then open Oxlen again.",
};

/** How much this phone keeps for the time without a network, and what waits to be sent. */
export function KeptHere() {
  const keeping = useKeeping();
  const isOff = keeping !== "on" && keeping !== "unknown";
  return (
    <>
      <WaitingHere />
      <section aria-labelledby="kept-here" className="mt-6">
        <h2 id="kept-here" className="mb-2 text-lg font-semibold">
          {isOff ? "Offline is off" : "Offline"}
        </h2>
        {isOff ? (
          <>
            <p className="mb-2">{OFF[keeping]}</p>
            {keeping === "untrusted" && <Install />}
          </>
        ) : (
          <p>
            This phone saves the last {MOST_ANSWERS} pages you opened and their last {MOST_PICTURES}{" "}
            pictures. Older ones are deleted here but stay on the computer. Open what you need
            before you leave.
          </p>
        )}
        <p className="mt-2">
          Edits wait until they are sent and are never deleted. Pictures you shoot wait too, up to{" "}
          {MOST_WAITING} or {MOST_WAITING_BYTES / 1e6} MB. More than that stays in your gallery.
        </p>
      </section>
    </>
  );
}

/** What makes the phone trust the computer, in the order it is done. */
function Install() {
  return (
    <ol className="grid list-decimal gap-1.5 pl-6">
      <li>
        <a href="/authority.crt" className="font-semibold underline">
          Download the certificate
        </a>
        .
      </li>
      <li>Open it, or choose it in the phone's settings under security, as a CA certificate.</li>
      <li>Where the settings have a list of trusted certificates, turn on Oxlen's.</li>
      <li>Close this page and open Oxlen again. The warning is gone and offline is on.</li>
    </ol>
  );
}
