import { ButtonLink } from "../../../ui/ButtonLink";
import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";

interface Props {
  sheetId: number;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The slip to take along: as a file for the phone, on paper, and as a code to scan. */
export function CardDialog({ sheetId, open, onOpenChange }: Props) {
  const of = `/api/sheets/${sheetId}`;
  return (
    <Dialog title="Field card" open={open} onOpenChange={onOpenChange}>
      <div className="grid gap-4">
        <div>
          <ButtonLink look="main" className="w-full" href={`${of}/card.html`} download>
            Field card
          </ButtonLink>
          <p className="mt-1 text-[0.92rem] text-soft">
            One file with the slip, the checklist, timers and settings for other light. It works
            without Oxlen and offline.
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <ButtonLink href={`${of}/card.pdf`} download>
            PDF, one page
          </ButtonLink>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
        <figure className="grid justify-items-center gap-1">
          <img
            src={`${of}/slip.svg`}
            alt="Slip as a code"
            className="w-56 max-w-full rounded bg-white p-1"
          />
          <figcaption className="text-[0.92rem] text-soft">
            Scan to get the slip as text on any phone.
          </figcaption>
        </figure>
      </div>
    </Dialog>
  );
}
