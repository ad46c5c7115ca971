import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import type { SeriesStart as SeriesStartAsked, SheetView } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { CheckField } from "../../../ui/CheckField";
import { Dialog } from "../../../ui/Dialog";
import { TextField } from "../../../ui/Field";
import { outingQuery } from "../../outings/queries";
import { useAsks } from "../limits/useAsks";
import { MembersFields, MOST } from "./MembersFields";
import { namesIn, nextNames } from "./names";
import { startSeries } from "./queries";
import { SeriesMembers } from "./SeriesMembers";
import { useSeries } from "./useSeries";

interface Props {
  sheet: SheetView;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The series of a sheet, or a first one to start from it. */
export function SeriesDialog({ sheet, open, onOpenChange }: Props) {
  const { series } = sheet;
  return (
    <Dialog
      title={series ? `Series: ${series.title}` : "Start a series"}
      open={open}
      onOpenChange={onOpenChange}
    >
      {series ? (
        <SeriesMembers sheet={sheet} series={series} onClose={() => onOpenChange(false)} />
      ) : (
        <SeriesStart sheet={sheet} onClose={() => onOpenChange(false)} />
      )}
      <p className="mt-4 border-t border-line pt-3 leading-snug">
        Many things, one picture of each?{" "}
        <Link
          href={`/sheets/${sheet.id}/shop`}
          className="inline-flex min-h-11 items-center underline"
        >
          Shop series
        </Link>
      </p>
    </Dialog>
  );
}

const FIRST_COUNT = 3;

/** How many pictures are shot alike, their names, and what is locked. */
function SeriesStart({ sheet, onClose }: { sheet: SheetView; onClose: () => void }) {
  const { data: outing } = useQuery(outingQuery(sheet.outing_id));
  const others = outing?.sheets.filter((item) => item.id !== sheet.id && !item.series) ?? [];
  const taken = outing?.sheets.map((sheet) => sheet.title) ?? [];
  const { seriesParts } = useAsks();
  const lead = sheet.body.title;
  const [title, setTitle] = useState(lead.replace(/\s*\d+$/, "") || lead);
  const [typed, setText] = useState<string | null>(null);
  const text = typed ?? nextNames(lead, taken, FIRST_COUNT).join("\n");
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const [asked, setLocked] = useState<readonly string[] | null>(null);
  const locked = asked ?? seriesParts.map((part) => part.id);
  const names = namesIn(text);
  const count = names.length + chosen.length;
  const { isBusy, run } = useSeries();
  const start = () =>
    run(
      () =>
        startSeries(sheet.id, {
          title,
          new_titles: names,
          sheets: [...chosen],
          locked: [...locked] as NonNullable<SeriesStartAsked["locked"]>,
        }),
      `“${title}” has ${count + 1} sheets.`,
      onClose,
    );
  return (
    <>
      <p className="mb-3 leading-snug">
        Every sheet gets the settings and the light of “{lead}”. Later changes reach the others only
        when you update them.
      </p>
      <div className="mb-3">
        <TextField label="Series name" value={title} maxLength={120} onCommit={setTitle} />
      </div>
      <MembersFields
        title={lead}
        {...{ taken, text, others, chosen }}
        onText={setText}
        onChosen={setChosen}
      />
      <fieldset className="mb-3">
        <legend className="font-semibold">Locked settings</legend>
        {seriesParts.map((part) => (
          <div key={part.id}>
            <CheckField
              label={part.name}
              checked={locked.includes(part.id)}
              onChange={(on) =>
                setLocked(on ? [...locked, part.id] : locked.filter((name) => name !== part.id))
              }
            />
          </div>
        ))}
      </fieldset>
      <Button
        look="main"
        disabled={!title.trim() || count === 0 || count > MOST || locked.length === 0 || isBusy}
        onClick={start}
      >
        Start series of {count + 1}
      </Button>
    </>
  );
}
