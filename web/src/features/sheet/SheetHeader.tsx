import { useState } from "react";
import { Link } from "wouter";

import type { SheetView } from "../../api/client";
import { DeviceControlsLater } from "../../shell/DeviceControlsLater";
import { Mark } from "../../shell/Shell";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/Field";
import { clockTime } from "../../ui/numbers";
import { laterDialog } from "../../ui/later";
import { type Editor, UNDECIDED } from "./useSheetEditor";

const PresetsDialog = laterDialog(() => import("./PresetsDialog").then((all) => all.PresetsDialog));
const SeriesDialog = laterDialog(() =>
  import("./series/SeriesDialog").then((all) => all.SeriesDialog),
);

/** Where one is, the sheet's title, undo, and when it was last saved. */
export function SheetHeader({ editor, sheet }: { editor: Editor; sheet: SheetView }) {
  const [presets, setPresets] = useState(false);
  const [ofSet, setOfSet] = useState(false);
  return (
    <header className="no-print flex min-h-13 items-center gap-2 border-b border-line bg-panel px-3 max-[759px]:flex-wrap max-[759px]:gap-x-0 max-[759px]:py-1 max-[759px]:[&_button]:min-h-11 max-[759px]:[&_button]:px-2">
      <Link
        href="/"
        className="flex min-h-11 min-w-0 items-center gap-2 rounded px-1 py-2 whitespace-nowrap max-[759px]:flex-1"
        aria-label={`Outings; this sheet belongs to ${sheet.outing_title}`}
      >
        <Mark />
        <span className="truncate underline decoration-line underline-offset-4">
          {sheet.outing_title}
        </span>
      </Link>
      <span aria-hidden="true" className="text-soft max-[759px]:hidden">
        /
      </span>
      <h1 className="min-w-32 flex-1 max-[759px]:order-1 max-[759px]:basis-full">
        <TextField
          label="Sheet title"
          hideLabel
          value={sheet.body.title}
          maxLength={120}
          className="w-full rounded border border-transparent bg-transparent px-1 py-1 font-semibold hover:border-line"
          onCommit={(title) =>
            title.trim() && editor.edit("title", (body) => ({ ...body, title: title.trim() }))
          }
        />
      </h1>
      <span
        className="px-2 text-[0.88rem] whitespace-nowrap text-soft"
        // That it is saved is no news; that it is not is.
        aria-live={editor.waits ? "polite" : "off"}
      >
        {editor.waits ? (
          <span className="flex items-center gap-2">
            <b className="text-ink">{editor.waits}</b>
            {!editor.saving && (
              <Button className="min-h-11" onClick={editor.send}>
                {editor.waits === UNDECIDED ? "Choose" : "Try again"}
              </Button>
            )}
          </span>
        ) : editor.saving ? (
          "Saving…"
        ) : (
          `Saved ${clockTime(sheet.changed_at)}`
        )}
      </span>
      <Link
        href={`/sheets/${sheet.id}/live`}
        className="flex min-h-11 min-w-11 items-center justify-center rounded px-3 hover:bg-sunk max-[759px]:order-2 max-[480px]:px-1.5"
      >
        Live
      </Link>
      {sheet.answer.run.length > 0 && (
        <Link
          href={`/sheets/${sheet.id}/run`}
          className="flex min-h-11 items-center rounded border border-accent px-3 font-semibold max-[480px]:px-2 max-[759px]:order-2 max-[759px]:min-h-11"
        >
          Checklist
        </Link>
      )}
      <Button
        look="quiet"
        className="max-[759px]:order-2 max-[480px]:px-1.5"
        onClick={() => setPresets(true)}
      >
        Presets
      </Button>
      {(sheet.series || sheet.answer.plan?.slip) && (
        <Button
          look="quiet"
          className="max-[759px]:order-2 max-[480px]:px-1.5"
          onClick={() => setOfSet(true)}
        >
          Series
        </Button>
      )}
      <Button
        look="quiet"
        className="max-[759px]:order-2 max-[480px]:px-1.5"
        disabled={!sheet.can_undo || editor.saving}
        title={`Undo: ${sheet.label}`}
        onClick={() => editor.step("undo")}
      >
        Undo
      </Button>
      <Button
        look="quiet"
        className="max-[759px]:order-2 max-[480px]:px-1.5"
        disabled={!sheet.can_redo || editor.saving}
        onClick={() => editor.step("redo")}
      >
        Redo
      </Button>
      <DeviceControlsLater />
      <SeriesDialog sheet={sheet} open={ofSet} onOpenChange={setOfSet} />
      <PresetsDialog
        body={sheet.body}
        edit={editor.edit}
        open={presets}
        onOpenChange={setPresets}
      />
    </header>
  );
}
