import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { SheetView, Take } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";
import { CheckField } from "../../../ui/CheckField";
import { TextField } from "../../../ui/Field";
import { useSay } from "../../../ui/Notices";
import { Preview } from "../../../ui/Preview";
import { Segmented } from "../../../ui/Segmented";
import { takesQuery } from "../queries";
import type { Editor } from "../useSheetEditor";
import { DevelopPart } from "./DevelopPart";
import { NightSkyPart } from "./NightSkyPart";
import { TakeEvidence } from "./TakeEvidence";
import { TakeVerdict } from "./TakeVerdict";
import {
  binTake,
  changeTake,
  meterByTake,
  presetOfTake,
  restoreTake,
  takeCheckQuery,
} from "./queries";

const STATES = [
  { value: "new", text: "Not judged" },
  { value: "kept", text: "Keep" },
  { value: "rejected", text: "Reject" },
] as const;

interface Props {
  take: Take | null;
  sheet: SheetView;
  editor: Editor;
  onClose: () => void;
}

/** One take at full size, what becomes of it, and what was noted. */
export function TakeDialog({ take, sheet, editor, onClose }: Props) {
  const client = useQueryClient();
  const say = useSay();
  if (!take) return null;
  const refresh = () => client.invalidateQueries({ queryKey: takesQuery(sheet.id).queryKey });
  const run = (work: Promise<unknown>) =>
    work.then(refresh, (error: unknown) =>
      say(error instanceof Error ? error.message : "Not saved. Try again."),
    );
  const meter = () =>
    meterByTake(take.id).then(
      (changed) => {
        editor.accept(changed);
        onClose();
      },
      (error: unknown) =>
        say(error instanceof Error ? error.message : "That did not work. Try again."),
    );
  const preset = () =>
    presetOfTake(take.id, sheet.body.title).then(
      async ({ preset: kept }) => {
        await client.invalidateQueries({ queryKey: ["presets"] });
        say(`“${kept.name}” is in your presets.`);
      },
      (error: unknown) => say(error instanceof Error ? error.message : "Not saved. Try again."),
    );
  const remove = () => {
    void run(binTake(take.id));
    onClose();
    say("Take deleted.", {
      text: "Undo",
      run: () => void run(restoreTake(take.id)),
    });
  };
  const footer = (
    <div className="flex flex-wrap items-center gap-2">
      <Segmented
        label="Decision"
        value={take.state}
        options={STATES}
        onChange={(state) => void run(changeTake(take.id, { state }))}
      />
      <Button className="ml-auto" onClick={() => void meter()}>
        Use for metering
      </Button>
      {take.state === "kept" && <Button onClick={() => void preset()}>Save as preset</Button>}
      <Button look="quiet" onClick={remove}>
        Delete
      </Button>
    </div>
  );
  return (
    <Dialog
      wide
      title={`Take: ${take.label}`}
      open
      onOpenChange={(open) => !open && onClose()}
      footer={footer}
    >
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-4 gap-y-3 md:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
        <TakeVerdict
          take={take}
          sheet={sheet}
          onCorrect={(found) => {
            editor.edit("correction from a take", (body) => ({ ...body, ...found.patch }));
            onClose();
            say(`The slip is now ${found.next.slip}.`);
          }}
        />
        <div className="grid content-start gap-3 md:order-first">
          <TakePicture take={take} sheet={sheet} />
          {sheet.body.sky && <NightSkyPart takeId={take.id} outingId={sheet.outing_id} />}
          <TextField
            label="Note"
            value={take.note}
            maxLength={1000}
            placeholder="For next time"
            onCommit={(note) => void run(changeTake(take.id, { note }))}
          />
          <DevelopPart take={take} />
        </div>
      </div>
    </Dialog>
  );
}

/** The take, with what was found in it drawn at its places. */
function TakePicture({ take, sheet }: { take: Take; sheet: SheetView }) {
  const { data: found } = useQuery(takeCheckQuery(take.id, sheet.version));
  const [shown, setShown] = useState(true);
  const [aspect, setAspect] = useState(4 / 3);
  return (
    <div>
      <div className="surround grid place-items-center rounded p-2">
        <div
          className="relative"
          onLoad={(event) => {
            const image = event.target;
            if (image instanceof HTMLImageElement && image.naturalHeight > 0)
              setAspect(image.naturalWidth / image.naturalHeight);
          }}
        >
          <Preview
            picture={take.picture}
            alt={`Take of ${sheet.body.title}`}
            className="max-h-[44dvh] max-w-full object-contain"
          />
          {found && shown && <TakeEvidence found={found} aspect={aspect} />}
        </div>
      </div>
      {found && <CheckField label="Findings" checked={shown} onChange={setShown} />}
    </div>
  );
}
