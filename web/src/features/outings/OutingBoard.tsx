import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useLocation } from "wouter";

import { type OutingChange, type OutingView, Refusal } from "../../api/client";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/Field";
import { laterDialog } from "../../ui/later";
import { useSay } from "../../ui/Notices";
import { DropZone, PickButton } from "./DropZone";
import { ImportList } from "./ImportList";
import { binOuting, changeOuting, outingQuery, restoreOuting } from "./queries";
import { SheetCard } from "./SheetCard";
import { useKeepOuting } from "./useKeepOuting";
import { useNewSheets } from "./useNewSheets";

const OutingCardDialog = laterDialog(() =>
  import("./OutingCardDialog").then((all) => all.OutingCardDialog),
);

const PLAIN_TEXT =
  "min-h-7 w-full rounded border border-transparent bg-transparent px-1 hover:border-line";

interface Props {
  outing: OutingView;
  takesPaste: boolean;
  /** Called while pictures are on their way in, and when they have come. */
  onBusy: (id: number, isBusy: boolean) => void;
}

/** One outing: its place and light window, and its sheets; takes dropped pictures. */
export function OutingBoard({ outing, takesPaste, onBusy }: Props) {
  const client = useQueryClient();
  const say = useSay();
  const [, go] = useLocation();
  const { incoming, take, cancel, dismiss } = useNewSheets(
    () => `/outings/${outing.id}/pictures`,
    outing,
    (sheet, count) => count === 1 && go(`/sheets/${sheet}`),
  );
  const [isTaken, setTaken] = useState(false);
  const isBusy = incoming.length > 0;
  useKeepOuting(outing);
  useEffect(() => onBusy(outing.id, isBusy), [onBusy, outing.id, isBusy]);
  const refresh = () => client.invalidateQueries({ queryKey: ["outings"] });
  const complain = (error: unknown) => {
    if (error instanceof Refusal) say(error.message);
  };
  // Only what changed is sent: one field must not bring an older state of the others along.
  const rename = (change: OutingChange) => {
    changeOuting(outing.id, change).then(refresh, complain);
  };
  const remove = () => {
    const undo = () => void restoreOuting(outing.id).then(refresh, complain);
    binOuting(outing.id).then(() => {
      say(`“${outing.title}” moved to the bin.`, { text: "Undo", run: undo });
      return refresh();
    }, complain);
  };
  return (
    <DropZone
      onFiles={take}
      paste={takesPaste}
      className="rounded border border-line bg-panel p-3 md:p-4"
    >
      <div className="mb-3 flex flex-wrap items-start gap-x-4 gap-y-2">
        <div className="grid min-w-[min(15rem,100%)] flex-1">
          <TextField
            label="Outing title"
            hideLabel
            value={outing.title}
            maxLength={120}
            className={`${PLAIN_TEXT} text-xl font-semibold`}
            onCommit={(title) => title && rename({ title })}
          />
          <div className="flex max-w-2xl text-soft">
            <TextField
              label="Place"
              hideLabel
              value={outing.place}
              placeholder="Place"
              maxLength={120}
              className={PLAIN_TEXT}
              onCommit={(place) => rename({ place })}
            />
            <TextField
              label="Light window"
              hideLabel
              value={outing.light_window}
              placeholder="Light window"
              maxLength={120}
              className={PLAIN_TEXT}
              onCommit={(light_window) => rename({ light_window })}
            />
          </div>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button look="quiet" onClick={remove}>
            Delete outing
          </Button>
          <Button look="quiet" onClick={() => setTaken(true)}>
            Export
          </Button>
          <Button look="quiet" onClick={() => go(`/outings/${outing.id}/light`)}>
            Light
          </Button>
          <Button onClick={() => go(`/begin?outing=${outing.id}`)}>New picture</Button>
          <PickButton text="Add pictures" onFiles={take} />
        </div>
      </div>
      <OutingCardDialog outing={outing} onChange={rename} open={isTaken} onOpenChange={setTaken} />
      <ImportList incoming={incoming} onCancel={cancel} onDismiss={dismiss} />
      {outing.sheets.length === 0 ? (
        <p className="rounded border border-dashed border-strong p-6 text-center text-soft">
          Drop pictures taken on auto here. Each becomes a sheet.
        </p>
      ) : (
        <Sheets outing={outing} onChanged={refresh} />
      )}
    </DropZone>
  );
}

/** The sheets sent along with an outing, and the rest when they are asked for. */
function Sheets({ outing, onChanged }: { outing: OutingView; onChanged: () => unknown }) {
  const [wantsAll, setWantsAll] = useState(false);
  const whole = useQuery({ ...outingQuery(outing.id), enabled: wantsAll });
  const sheets = (wantsAll && whole.data?.sheets) || outing.sheets;
  return (
    <>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(9rem,100%),1fr))] gap-3 md:grid-cols-3 lg:grid-cols-4">
        {sheets.map((sheet) => (
          <SheetCard key={sheet.id} sheet={sheet} onChanged={onChanged} />
        ))}
      </ul>
      {sheets.length < outing.sheet_count && (
        <Button className="mt-3" disabled={whole.isFetching} onClick={() => setWantsAll(true)}>
          Show all {outing.sheet_count} sheets
        </Button>
      )}
    </>
  );
}
