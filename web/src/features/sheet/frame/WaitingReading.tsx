import { dropPicture, useWaitingPictures } from "../../../api/waitingPictures";
import { Button } from "../../../ui/Button";

/** Readings of a sheet's light that wait on this phone: the slip does not know them yet. */
export function WaitingReading({ sheet }: { sheet: number }) {
  const waiting = useWaitingPictures().filter(
    (picture) => picture.use === "reading" && picture.owner === sheet,
  );
  return waiting.map(({ place, name, refused }) => (
    <p key={place} role="status" className="flex min-h-11 items-center gap-3 py-1 text-ink">
      <span className="min-w-0 flex-1">
        {refused === null
          ? "A reading waits on this phone. The slip uses the earlier light."
          : `${name}: ${refused}`}
      </span>
      {refused !== null && (
        <Button look="quiet" onClick={() => void dropPicture(place)}>
          Delete reading
        </Button>
      )}
    </p>
  ));
}
