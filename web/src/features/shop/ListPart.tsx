import { useRef, useState } from "react";

import { Button } from "../../ui/Button";
import { ButtonLink } from "../../ui/ButtonLink";
import { TextField } from "../../ui/Field";
import { useSay } from "../../ui/Notices";
import { Preview } from "../../ui/Preview";
import type { PartProps } from "./part";
import {
  addThings,
  changeThing,
  deleteThing,
  labelsAddress,
  type Shop,
  type ShopThing,
} from "./queries";

const INLINE = "min-h-11 rounded border border-transparent bg-transparent px-1 hover:border-line";
const EXAMPLE =
  "number,name,size\n01,Clear varnish,11 x 14 x 11 cm\n02,Tar varnish,11 x 14 x 11 cm";

/** A sheet that has no list yet. */
export function NewList(props: PartProps) {
  return (
    <section aria-label="New list" className="max-w-2xl">
      <p className="mt-1 mb-4 text-soft">
        Photograph a list of things alike. Every picture is compared with one reference, matched,
        and handed over under its name.
      </p>
      <AddThings {...props} isFirst />
    </section>
  );
}

function AddThings({ sheet, run, isFirst = false }: PartProps & { isFirst?: boolean }) {
  const [text, setText] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const say = useSay();
  const add = (list: string) => run(() => addThings(sheet, list)).then((ok) => ok && setText(""));
  const read = (file: File | undefined) =>
    file?.text().then(add, () => say("That file could not be read."));
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add(text);
      }}
    >
      <label htmlFor="things" className="font-semibold">
        Things
      </label>
      <textarea
        id="things"
        className="field min-h-36 font-mono text-[0.92rem]"
        placeholder={EXAMPLE}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <p className="text-[0.88rem] text-soft">
        One a line; a name is enough. Number and size follow, set off by commas. The largest size
        plans the set-up.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button look={isFirst ? "main" : "plain"} type="submit" disabled={!text.trim()}>
          Add things
        </Button>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          className="hidden"
          aria-label="Import CSV"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            void read(file);
          }}
        />
        <Button onClick={() => input.current?.click()}>Import CSV</Button>
      </div>
    </form>
  );
}

/** The things of a series: what each is called, and what was shot of it. */
export function ListPart({ shop, ...props }: PartProps & { shop: Shop }) {
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <ul aria-label="Things" className="grid gap-2">
        {shop.things.map((thing) => (
          <ThingRow key={thing.id} thing={thing} views={shop.options.views} {...props} />
        ))}
      </ul>
      <div className="grid gap-6">
        <section aria-label="More things" className="rounded border border-line bg-panel p-4">
          <AddThings {...props} />
        </section>
        <section aria-label="Codes" className="rounded border border-line bg-panel p-4">
          <h2 className="text-lg font-semibold">Codes</h2>
          <p className="mt-1 mb-3 text-soft">
            Hold a thing’s label into one frame: the next frames are of that thing.
          </p>
          <ButtonLink href={labelsAddress(props.sheet)}>Print labels</ButtonLink>
        </section>
      </div>
    </div>
  );
}

interface RowProps extends PartProps {
  thing: ShopThing;
  views: readonly string[];
}

function ThingRow({ thing, views, sheet, run }: RowProps) {
  const size = [thing.width_cm, thing.height_cm, thing.depth_cm].filter((length) => length);
  return (
    <li className="flex flex-wrap items-center gap-3 rounded border border-line bg-panel p-2">
      {thing.pictures.map((picture) => (
        <span
          key={picture.view}
          className="surround grid h-16 w-16 shrink-0 place-items-center overflow-hidden rounded-xs text-[0.75rem] text-ink"
        >
          {picture.picture ? (
            <Preview picture={picture.picture} alt="" className="h-full w-full object-cover" lazy />
          ) : (
            <span className="px-1 text-center">{views.length > 1 ? picture.view : "not shot"}</span>
          )}
        </span>
      ))}
      <div
        className={`flex min-w-40 flex-1 flex-wrap items-center gap-x-2 ${thing.skipped ? "text-soft line-through" : ""}`}
      >
        <TextField
          label={`Number of ${thing.name}`}
          hideLabel
          value={thing.number}
          maxLength={20}
          placeholder="no."
          className={`${INLINE} w-14 font-semibold tabular-nums`}
          onCommit={(number) => void run(() => changeThing(sheet, thing.id, { number }))}
        />
        <TextField
          label={`Name of ${thing.number || "thing"}`}
          hideLabel
          value={thing.name}
          maxLength={120}
          className={`${INLINE} min-w-32 flex-1`}
          onCommit={(name) =>
            name.trim() && void run(() => changeThing(sheet, thing.id, { name: name.trim() }))
          }
        />
        {size.length > 0 && (
          <span className="text-[0.85rem] text-soft tabular-nums">{size.join(" × ")} cm</span>
        )}
      </div>
      <Button
        look="quiet"
        onClick={() => void run(() => changeThing(sheet, thing.id, { skipped: !thing.skipped }))}
      >
        {thing.skipped ? "Put back" : "Leave out"}
      </Button>
      <Button
        look="quiet"
        aria-label={`Delete ${thing.name}`}
        onClick={() => void run(() => deleteThing(sheet, thing.id))}
      >
        Delete
      </Button>
    </li>
  );
}
