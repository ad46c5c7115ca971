import { Link } from "wouter";

import { ask, Refusal, type SheetSummary } from "../../api/client";
import { useSay } from "../../ui/Notices";
import { Preview } from "../../ui/Preview";

const STATES: Record<SheetSummary["state"], { text: string; mark: string }> = {
  planned: { text: "planned", mark: "border border-strong" },
  shot: {
    text: "shot",
    mark: "border border-strong bg-linear-to-r from-ink from-50% to-transparent to-50%",
  },
  kept: { text: "kept", mark: "bg-ink" },
};

/** In place of a picture: what is planned, so that the tile says something. */
function Planned({ sheet }: { sheet: SheetSummary }) {
  const { planned, trouble } = sheet;
  if (trouble || !planned)
    return <span className="px-3 text-center">{trouble ?? "no picture yet"}</span>;
  return (
    <span className="grid gap-1.5 px-4 text-center leading-snug max-md:px-2 max-md:pt-8 max-md:text-[0.92rem]">
      <b className="text-[1.45rem] leading-none max-md:text-[1.05rem]">{planned.slip}</b>
      <span>{planned.asked}</span>
      <span className="text-[0.9rem] max-md:hidden">{planned.light}</span>
    </span>
  );
}

/** A sheet in its outing: the picture on mid grey, the title, how far it has come. */
export function SheetCard({ sheet, onChanged }: { sheet: SheetSummary; onChanged: () => unknown }) {
  const say = useSay();
  const complain = (error: unknown) => {
    if (error instanceof Refusal) say(error.message);
  };
  const restore = () => {
    void ask<SheetSummary>(`/sheets/${sheet.id}/restore`, { method: "POST" }).then(
      onChanged,
      complain,
    );
  };
  const remove = () => {
    ask<SheetSummary>(`/sheets/${sheet.id}`, { method: "DELETE" }).then(() => {
      say(`“${sheet.title}” moved to the bin.`, { text: "Undo", run: restore });
      onChanged();
    }, complain);
  };
  const state = STATES[sheet.state];
  return (
    <li className="group relative overflow-hidden rounded border border-line bg-raised">
      <Link href={`/sheets/${sheet.id}`} className="block">
        <div className="surround relative grid aspect-4/3 place-items-center">
          {sheet.picture ? (
            <Preview
              picture={sheet.picture}
              alt=""
              lazy
              className="absolute inset-0 h-full w-full object-contain p-2"
            />
          ) : (
            <Planned sheet={sheet} />
          )}
        </div>
        <div className="flex items-baseline gap-x-2 gap-y-0.5 px-3 py-2 max-md:flex-col">
          <span className="min-w-0 flex-1 leading-snug">
            {sheet.title}
            {sheet.series && (
              <span className="block text-[0.85rem] text-soft">Series {sheet.series}</span>
            )}
          </span>
          <span className="flex items-center gap-1.5 text-[0.85rem] whitespace-nowrap text-soft">
            <span aria-hidden="true" className={`inline-block h-2.5 w-2.5 ${state.mark}`} />
            {state.text}
          </span>
        </div>
      </Link>
      <button
        type="button"
        onClick={remove}
        aria-label={`Delete ${sheet.title}`}
        title="Delete sheet"
        className="absolute top-1 right-1 grid h-9 w-9 place-items-center rounded bg-panel opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 focus:opacity-100 [@media(hover:none)]:opacity-90"
      >
        ×
      </button>
    </li>
  );
}
