import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { Refusal } from "../../api/client";
import { Button } from "../../ui/Button";
import { isSingleKey, undoKey } from "../../ui/keys";
import { later } from "../../ui/later";
import { Shell } from "../../shell/Shell";
import { SheetHeader } from "./SheetHeader";
import { useChosenLine } from "./line/useChosenLine";
import { asksQuery } from "./queries";
import { SeriesBand } from "./series/SeriesBand";
import { fetchRest, SheetView } from "./SheetView";
import { useSheetEditor } from "./useSheetEditor";

// With room for all of it a sheet is shown whole, so that nothing moves once it is seen.
const rest = window.matchMedia("(max-width: 639px)").matches ? null : fetchRest();

function useRestIsHere(): boolean {
  const [isHere, setHere] = useState(rest === null);
  useEffect(() => {
    void rest?.catch(() => undefined).then(() => setHere(true));
  }, []);
  return isHere;
}

const ClashDialog = later(() => import("./ClashDialog").then((all) => all.ClashDialog));

/** One picture from intent to slip. */
export function SheetPage({ id }: { id: number }) {
  const editor = useSheetEditor(id);
  const [slipOpen, setSlipOpen] = useState(false);
  const { sheet, step } = editor;
  // What may be asked for is known before anything can be edited.
  const asks = useQuery(asksQuery);
  const error = editor.error ?? asks.error;
  const { field } = useChosenLine();
  const isWhole = useRestIsHere();
  useEffect(() => {
    const line = sheet?.answer.lines.find((line) => line.field === field)?.name;
    const place = sheet && [line, sheet.body.title].filter(Boolean).join(" · ");
    document.title = place ? `${place} · Oxlen` : "Oxlen";
  }, [sheet, field]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const asked = undoKey(event);
      if (asked) {
        event.preventDefault();
        step(asked);
      }
      if (!isSingleKey(event)) return;
      if (event.key === "u") step("undo");
      if (event.key === "U") step("redo");
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [step]);
  if (error)
    return (
      <Shell>
        <main className="p-8">
          <h1 className="mb-2 text-xl font-semibold">Cannot show this sheet</h1>
          <p className="mb-4">{error.message}</p>
          {error instanceof Refusal && error.problem.code === "unreadable-sheet" && (
            <p className="mb-4">
              Nothing is lost:{" "}
              <a className="underline" href={`/api/sheets/${id}/body`} download>
                save it as a file
              </a>
              .
            </p>
          )}
          <Button onClick={() => window.location.assign("/")}>Show outings</Button>
        </main>
      </Shell>
    );
  if (!sheet || !asks.data || !isWhole) return <p className="p-6">Opening the sheet…</p>;
  return (
    <div className="flex min-h-dvh flex-col min-[900px]:h-dvh print:h-auto">
      <SheetHeader editor={editor} sheet={sheet} />
      {sheet.series && <SeriesBand sheet={sheet} series={sheet.series} />}
      <SheetView editor={editor} sheet={sheet} slipOpen={slipOpen} setSlipOpen={setSlipOpen} />
      {editor.clash && (
        <ClashDialog clash={editor.clash} settle={editor.settle} postpone={editor.postpone} />
      )}
    </div>
  );
}
