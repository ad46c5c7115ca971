import { Button } from "../../../ui/Button";
import { Dialog } from "../../../ui/Dialog";
import { ev } from "../../../ui/numbers";
import type { PictureImport } from "./usePicture";

/** Asked before a picture takes the place of a guess of the light. */
export function GuessDialog({ picture }: { picture: PictureImport }) {
  const { guesses, decide } = picture;
  const names = guesses.map(
    (guess) => `${guess.name || "the guess"}${guess.ev100 === null ? "" : ` (${ev(guess.ev100)})`}`,
  );
  return (
    <Dialog
      title="Replace guess?"
      open={guesses.length > 0}
      onOpenChange={(open) => {
        if (!open) decide(null);
      }}
    >
      <p className="leading-snug">
        The light was guessed from the table: {names.join(" and ")}. The picture has the measured
        light. A guess that stays in the list is not used.
      </p>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={() => decide("keep")}>Keep guess</Button>
        <Button look="main" onClick={() => decide("replace")}>
          Replace guess
        </Button>
      </div>
    </Dialog>
  );
}
