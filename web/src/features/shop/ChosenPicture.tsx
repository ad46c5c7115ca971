import { useState } from "react";
import { useLocation } from "wouter";

import { Button } from "../../ui/Button";
import { Preview } from "../../ui/Preview";
import { Segmented } from "../../ui/Segmented";
import type { PartProps } from "./part";
import {
  aimAt,
  chooseReference,
  matchedAddress,
  nameOf,
  rejectTake,
  type Shop,
  type Shot,
  shotsOf,
} from "./queries";
import { STEP_WORDS } from "./steps";

type Side = "before" | "after" | "reference";

/** One picture: what is off, before and after matching, and what to do with it. */
export function ChosenPicture({
  shop,
  shot,
  sheet,
  run,
  again,
}: PartProps & { shop: Shop; shot: Shot }) {
  const [side, setSide] = useState<Side>("before");
  const [, go] = useLocation();
  const { picture, thing } = shot;
  const reference = shotsOf(shop).find(
    (other) => other.picture.is_reference && other.picture.view === picture.view,
  );
  const sides = [
    { value: "before", text: "As shot" },
    ...(picture.can_match ? [{ value: "after" as const, text: "Matched" }] : []),
    { value: "reference", text: "Reference" },
  ] as const;
  const shown = side === "reference" ? (reference ?? shot) : shot;
  const shootAgain = () =>
    run(() => aimAt(sheet, { thing_id: thing.id, view: picture.view })).then(
      (ok) => ok && go(`/sheets/${sheet}/shop?part=shoot`),
    );
  return (
    <section aria-label="Chosen picture" className="rounded border border-line bg-panel p-4">
      <h2 className="text-lg font-semibold">{nameOf(shot, shop)}</h2>
      <p className="mb-2">
        {picture.is_reference ? (
          "Everything is compared with this picture."
        ) : (
          <>
            <b>{picture.next_step ? STEP_WORDS[picture.next_step] : "Not checked"}</b>
            {picture.findings.length > 0 && `: ${picture.findings.join(", ")}`}
          </>
        )}
      </p>
      <Segmented label="Shown" value={side} options={sides} onChange={setSide} />
      <div className="surround mt-2 grid h-72 place-items-center overflow-hidden rounded">
        {side === "after" && picture.can_match ? (
          <img
            src={matchedAddress(sheet, picture.take_id, JSON.stringify(shop.options))}
            alt={`${nameOf(shot, shop)}, matched`}
            className="max-h-full max-w-full"
          />
        ) : (
          <Preview
            picture={shown.picture.picture}
            alt={nameOf(shown, shop)}
            className="max-h-full max-w-full"
          />
        )}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          look={picture.next_step === "reshoot" ? "main" : "plain"}
          onClick={() => void shootAgain()}
        >
          Shoot again
        </Button>
        {!picture.is_reference && (
          <Button onClick={() => void run(() => chooseReference(sheet, picture.take_id))}>
            Make reference
          </Button>
        )}
        <Button look="quiet" onClick={() => void rejectTake(picture.take_id).then(again)}>
          Reject take
        </Button>
      </div>
    </section>
  );
}
