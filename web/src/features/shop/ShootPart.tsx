import { Link } from "wouter";

import { ButtonLink } from "../../ui/ButtonLink";
import { CheckField } from "../../ui/CheckField";
import { TextField } from "../../ui/Field";
import { Preview } from "../../ui/Preview";
import { CameraButton, DropZone, PickButton } from "../outings/DropZone";
import { TakingInBar } from "../takes/TakingInBar";
import { useTakingIn } from "../takes/useTakingIn";
import type { PartProps } from "./part";
import { Steps } from "./Steps";
import { changeOptions, placeTake, type Shop, shotsOf } from "./queries";

/** Thing by thing: what is next, large, and the pictures that come in. */
export function ShootPart({ shop, sheet, run, again }: PartProps & { shop: Shop }) {
  const { state, take, cancel, dismiss } = useTakingIn<unknown>({ path: `/sheets/${sheet}/takes` });
  const takeAll = (files: File[]) => {
    const inOrder = [...files].sort((a, b) =>
      a.name.localeCompare(b.name, "en", { numeric: true }),
    );
    void take(inOrder).then(again);
  };
  return (
    <DropZone paste onFiles={takeAll} className="grid gap-5">
      <NextThing shop={shop} sheet={sheet} run={run} onFiles={takeAll} />
      <TakingInBar state={state} onCancel={cancel} onDismiss={dismiss} />
      <Progress shop={shop} />
      {shop.spare.length > 0 && <Spare shop={shop} sheet={sheet} run={run} />}
      <section
        aria-label="How to shoot"
        className="max-w-xl rounded border border-line bg-panel p-4"
      >
        <TextField
          label="Views of each"
          value={shop.options.views.join(", ")}
          hint="For instance: front, back, label, scale."
          onCommit={(text) => {
            const views = text
              .split(",")
              .map((view) => view.trim())
              .filter(Boolean);
            if (views.length > 0) void run(() => changeOptions(sheet, { ...shop.options, views }));
          }}
        />
        <CheckField
          label="Sort by codes"
          checked={shop.options.uses_codes}
          onChange={(uses_codes) =>
            void run(() => changeOptions(sheet, { ...shop.options, uses_codes }))
          }
        />
        <p className="text-[0.88rem] text-soft">
          Without codes, takes belong to the things in the order they were shot.
        </p>
      </section>
    </DropZone>
  );
}

interface NextProps {
  shop: Shop;
  sheet: number;
  run: PartProps["run"];
  onFiles: (files: File[]) => void;
}

function NextThing({ shop, sheet, run, onFiles }: NextProps) {
  const { next } = shop;
  const views = shop.options.views;
  return (
    <section
      aria-label="Next"
      className="grid gap-4 rounded border-2 border-strong bg-panel p-5"
      aria-live="polite"
    >
      {next ? (
        <p>
          <span className="text-soft tabular-nums">
            {next.position} of {shop.things.length}
            {views.length > 1 && `, ${next.view}`}
          </span>
          <b className="block text-3xl leading-tight">
            {next.number && <span className="mr-3 tabular-nums">{next.number}</span>}
            {next.name}
          </b>
        </p>
      ) : (
        <p className="text-2xl font-semibold">Everything is shot.</p>
      )}
      <div className="flex flex-wrap gap-2">
        <PickButton text="Add takes" look={next ? "main" : "plain"} onFiles={onFiles} />
        <CameraButton onFiles={onFiles} />
        <Link
          href={`/sheets/${sheet}/live`}
          className="inline-flex min-h-11 items-center rounded border border-strong bg-raised px-3 hover:bg-sunk"
        >
          Shoot live
        </Link>
        {next && <Steps shop={shop} sheet={sheet} run={run} />}
        {!next && (
          <ButtonLink href={`/sheets/${sheet}/shop?part=check`} look="main">
            Check series
          </ButtonLink>
        )}
      </div>
    </section>
  );
}

function Progress({ shop }: { shop: Shop }) {
  const shots = shotsOf(shop);
  return (
    <ol aria-label="Shot so far" className="flex flex-wrap gap-2">
      {shots.map(({ thing, picture }) => (
        <li key={picture.take_id} className="w-24 text-[0.8rem] leading-tight">
          <span className="surround block h-20 overflow-hidden rounded-xs">
            <Preview picture={picture.picture} alt="" className="h-full w-full object-cover" lazy />
          </span>
          <span className="line-clamp-2">
            <b className="tabular-nums">{thing.number}</b> {thing.name}
            {shop.options.views.length > 1 && `, ${picture.view}`}
          </span>
        </li>
      ))}
    </ol>
  );
}

function Spare({ shop, sheet, run }: { shop: Shop; sheet: number; run: PartProps["run"] }) {
  const takes = shop.spare.filter((spare) => !spare.is_code);
  if (takes.length === 0) return null;
  return (
    <section aria-label="Not in the list">
      <h2 className="mb-1 font-semibold">{takes.length} takes without a thing</h2>
      <ul className="grid gap-2">
        {takes.map((spare) => (
          <li key={spare.take_id} className="flex flex-wrap items-center gap-3">
            <span className="surround block h-16 w-20 overflow-hidden rounded-xs">
              <Preview picture={spare.picture} alt="" className="h-full w-full object-cover" lazy />
            </span>
            <select
              className="field max-w-64"
              aria-label={`Thing of ${spare.file}`}
              value=""
              onChange={(event) => {
                const [thing, view] = event.target.value.split(":");
                void run(() =>
                  placeTake(sheet, spare.take_id, { thing_id: Number(thing), view: view ?? "" }),
                );
              }}
            >
              <option value="">Choose its thing</option>
              {shop.things.flatMap((thing) =>
                thing.pictures.map((picture) => (
                  <option key={`${thing.id}:${picture.view}`} value={`${thing.id}:${picture.view}`}>
                    {`${thing.number} ${thing.name}, ${picture.view}`}
                  </option>
                )),
              )}
            </select>
          </li>
        ))}
      </ul>
    </section>
  );
}
