import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { Button } from "../../ui/Button";
import { ButtonLink } from "../../ui/ButtonLink";
import { NumberField, Select, TextField } from "../../ui/Field";
import { choicesQuery, type Looked, searchOf } from "./queries";

const STATES = [
  { value: "", text: "Any" },
  { value: "kept", text: "Kept" },
  { value: "new", text: "Not judged" },
  { value: "rejected", text: "Rejected" },
] as const;
const ORDERS = [
  { value: "newest", text: "Newest first" },
  { value: "oldest", text: "Oldest first" },
  { value: "iso", text: "Lowest ISO first" },
  { value: "shutter", text: "Shortest shutter first" },
] as const;
const MORE: (keyof Looked)[] = [
  "lens",
  "situation",
  "iso_min",
  "iso_max",
  "shutter_min_s",
  "shutter_max_s",
  "since",
  "until",
];

interface Props {
  looked: Looked;
  onLook: (change: Partial<Looked>) => void;
  onImport: (file: File) => void;
  count: { of: number; to: number } | null;
}

/** What the logbook is narrowed down by, and the files it goes out and comes in as. */
export function LogFilters({ looked, onLook, onImport, count }: Props) {
  const [isMore, setMore] = useState(MORE.some((name) => looked[name] !== ""));
  return (
    <section aria-label="Search" className="mb-3 rounded border border-line bg-panel p-3">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-[min(14rem,100%)] flex-1">
          <TextField
            label="Find"
            type="search"
            placeholder="Find in takes"
            value={looked.words}
            maxLength={200}
            onCommit={(words) => onLook({ words })}
          />
        </div>
        <div className="w-36">
          <Select
            label="Decision"
            value={looked.state}
            options={STATES}
            onChange={(state) => onLook({ state })}
          />
        </div>
        <div className="w-52">
          <Select
            label="Order"
            value={looked.order}
            options={ORDERS}
            onChange={(order) => onLook({ order })}
          />
        </div>
        <Button aria-expanded={isMore} onClick={() => setMore(!isMore)}>
          {isMore ? "Fewer filters" : "More filters"}
        </Button>
      </div>
      {isMore && <MoreFilters looked={looked} onLook={onLook} />}
      <div className="mt-2 flex flex-wrap items-center gap-x-2 text-[0.92rem]">
        <span role="status" className="mr-auto text-soft">
          {count && count.of >= 0 ? counted(count) : ""}
        </span>
        <Files looked={looked} onImport={onImport} />
      </div>
    </section>
  );
}

function MoreFilters({ looked, onLook }: Pick<Props, "looked" | "onLook">) {
  const { data } = useQuery(choicesQuery);
  const lenses = [{ value: "", text: "Any" }].concat(
    (data?.lenses ?? []).map((lens) => ({ value: lens, text: lens })),
  );
  const kinds = [{ value: "", text: "Any" }].concat(
    Object.entries(data?.situations ?? {}).map(([value, text]) => ({ value, text })),
  );
  const number = (name: keyof Looked, label: string, unit?: string) => (
    <NumberField
      label={label}
      {...(unit ? { unit } : {})}
      value={looked[name] === "" ? null : Number(looked[name])}
      low={0}
      onCommit={(value) => onLook({ [name]: value === null ? "" : String(value) })}
    />
  );
  const day = (name: "since" | "until", label: string) => (
    <label className="block">
      <span className="mb-0.5 block text-[0.82rem] text-soft">{label}</span>
      <input
        type="date"
        className="field"
        value={looked[name]}
        onChange={(event) => onLook({ [name]: event.target.value })}
      />
    </label>
  );
  return (
    <div className="mt-3 grid grid-cols-2 gap-3 md:grid-cols-5">
      <Select
        label="Kind of picture"
        value={looked.situation}
        options={kinds}
        onChange={(situation) => onLook({ situation })}
      />
      <Select
        label="Lens"
        value={looked.lens}
        options={lenses}
        onChange={(lens) => onLook({ lens })}
      />
      {number("iso_min", "ISO from")}
      {number("iso_max", "ISO to")}
      {number("shutter_min_s", "Shutter from", "s")}
      {number("shutter_max_s", "Shutter to", "s")}
      {day("since", "From")}
      {day("until", "Until")}
    </div>
  );
}

function Files({ looked, onImport }: Pick<Props, "looked" | "onImport">) {
  const input = useRef<HTMLInputElement>(null);
  const search = searchOf(looked);
  const of = (ending: string) => `/api/logbook/file.${ending}?${search}`;
  return (
    <>
      <span className="text-soft">Save as</span>
      <ButtonLink look="quiet" href={of("csv")} download title="Table">
        CSV
      </ButtonLink>
      <ButtonLink look="quiet" href={of("json")} download title="For Oxlen and scripts">
        JSON
      </ButtonLink>
      <ButtonLink look="quiet" href={of("xmp.zip")} download title="Rating, note and keywords">
        XMP sidecars
      </ButtonLink>
      <input
        ref={input}
        type="file"
        accept=".json,.xmp,.zip"
        aria-label="Logbook file"
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onImport(file);
        }}
      />
      <Button look="quiet" onClick={() => input.current?.click()}>
        Import
      </Button>
    </>
  );
}

function counted({ of, to }: { of: number; to: number }): string {
  if (of >= to) return `More than ${to} takes`;
  return of === 1 ? "1 take" : `${of} takes`;
}
