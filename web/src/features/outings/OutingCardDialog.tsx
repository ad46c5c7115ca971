import { useState } from "react";

import type { OutingChange, OutingView } from "../../api/client";
import { ButtonLink } from "../../ui/ButtonLink";
import { CheckField } from "../../ui/CheckField";
import { Dialog } from "../../ui/Dialog";
import { Labelled } from "../../ui/Field";
import { CardFile } from "./CardFile";

interface Props {
  outing: OutingView;
  onChange: (change: OutingChange) => void;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** An outing to take along: its cards, its file, and its day in a calendar. */
export function OutingCardDialog({ outing, onChange, open, onOpenChange }: Props) {
  const of = `/api/outings/${outing.id}`;
  const [withIdentity, setWithIdentity] = useState(false);
  return (
    <Dialog title="Export" open={open} onOpenChange={onOpenChange}>
      <div className="grid gap-5">
        <section className="grid gap-2" aria-label="Cards">
          <p>
            All {outing.sheet_count} sheets, each with slip, checklist and settings for other light.
          </p>
          <div className="flex flex-wrap items-start gap-2">
            <CardFile outingId={outing.id} kind="html" label="Field cards" look="main" />
            {outing.sheet_count > 0 && (
              <CardFile outingId={outing.id} kind="pdf" label="Cards as PDF" />
            )}
          </div>
        </section>
        <section className="grid gap-2" aria-label="Calendar">
          <div className="flex flex-wrap items-end gap-2">
            <Labelled label="Date">
              {(id) => (
                <input
                  id={id}
                  type="date"
                  value={outing.date ?? ""}
                  className="min-h-11 rounded border border-strong bg-raised px-2"
                  onChange={(event) => onChange({ date: event.target.value || null })}
                />
              )}
            </Labelled>
            {outing.date && (
              <ButtonLink href={`${of}/calendar.ics`} download>
                Calendar file
              </ButtonLink>
            )}
          </div>
          <p className="text-[0.92rem] text-soft">
            A light window such as 18:40 to 19:20 sets the time of the entry.
          </p>
        </section>
        <section className="grid gap-2" aria-label="Another Oxlen">
          <CheckField
            label="Keep personal data"
            checked={withIdentity}
            onChange={setWithIdentity}
          />
          <p className="text-[0.92rem] text-soft">
            {withIdentity
              ? "Pictures and takes for another Oxlen, unchanged. Anyone with the file can see where they were taken."
              : "Pictures and takes for another Oxlen. Location, owner and serial number are removed. RAW files other than DNG are left out."}
          </p>
          <div>
            <ButtonLink href={`${of}/file?with_identity=${withIdentity}`} download>
              Export outing
            </ButtonLink>
          </div>
        </section>
      </div>
    </Dialog>
  );
}
