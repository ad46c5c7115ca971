import { Preview } from "../../ui/Preview";
import { nameOf, type Shop, type Shot } from "./queries";
import { STEP_MARKS, STEP_WORDS } from "./steps";

interface Props {
  shop: Shop;
  shots: readonly Shot[];
  chosen: Shot | null;
  onChoose: (take: number) => void;
}

/** All pictures side by side on mid-grey, as a buyer sees them; what is off is framed and named. */
export function SmallPictures({ shop, shots, chosen, onChoose }: Props) {
  return (
    <ul
      aria-label="All pictures"
      className="surround grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-2 rounded p-3"
    >
      {shots.map((shot) => {
        const { picture } = shot;
        const step = picture.next_step ?? "look";
        const isOff = !picture.is_reference && step !== "keep";
        return (
          <li key={picture.take_id}>
            <button
              type="button"
              aria-pressed={shot === chosen}
              className={`block w-full bg-raised text-left text-[0.82rem] leading-tight text-ink ${isOff ? STEP_MARKS[step] : "border border-line"} ${shot === chosen ? "outline-3 outline-offset-2 outline-(--accent)" : ""}`}
              onClick={() => onChoose(picture.take_id)}
            >
              <Preview
                picture={picture.picture}
                alt=""
                className="aspect-square w-full object-cover"
                lazy
              />
              <span className="block min-h-11 px-1.5 py-1">
                {nameOf(shot, shop)}
                {(isOff || picture.is_reference) && (
                  <b className="block">
                    {picture.is_reference
                      ? "Reference"
                      : picture.next_step
                        ? STEP_WORDS[step]
                        : "Not checked"}
                  </b>
                )}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
