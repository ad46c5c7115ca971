import type { Answer } from "../../../api/client";
import { Explained } from "../../help/Explained";

interface Props {
  cautions: Answer["cautions"];
  /** Grave ones come before the slip, all others after it. */
  grave: boolean;
}

/** What to mind at the spot, whether or not there are settings. */
export function Cautions({ cautions, grave }: Props) {
  const shown = cautions.filter((caution) => caution.is_grave === grave);
  const isLast = grave ? cautions.every((caution) => caution.is_grave) : true;
  if (shown.length === 0) return null;
  return (
    <section
      aria-label={grave ? "Danger" : "Take care"}
      className={
        grave
          ? "mb-3 border-2 border-ink bg-raised px-3 py-2"
          : "my-2 border-l-4 border-strong py-1 pl-3"
      }
    >
      <h3 className={grave ? "font-semibold" : "text-[0.85rem] text-soft"}>
        {grave ? "Danger" : "Take care"}
      </h3>
      <ul className={grave ? "grid gap-1" : "grid gap-1 text-[0.92rem] leading-snug"}>
        {shown.map((caution) => (
          <li key={caution.words}>
            <Explained>{caution.words}</Explained>
          </li>
        ))}
      </ul>
      {isLast && (
        <p className="mt-1 text-[0.86rem] text-soft">Local rules and licensed people come first.</p>
      )}
    </section>
  );
}
