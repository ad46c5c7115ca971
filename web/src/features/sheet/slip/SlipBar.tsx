import type { Line } from "./slipText";

interface Props {
  lines: Line[];
  /** What stands in the way of a slip; undefined where nothing does, or steps are chosen by hand. */
  conflict: string | undefined;
  onOpen: () => void;
}

const ON_THE_BAR = ["lens", "iso", "shutter_s"];

/** On a small screen: the slip in short along the lower edge, one tap from the whole. */
export function SlipBar({ lines, conflict, onOpen }: Props) {
  const value = (field: string) => lines.find((line) => line.field === field)?.value;
  const alsoToDo = lines.filter((line) => !ON_THE_BAR.includes(line.field));
  return (
    <button
      type="button"
      onClick={onOpen}
      className="no-print fixed inset-x-0 bottom-0 z-10 grid min-h-19 grid-cols-[auto_1fr_1fr] items-end gap-4 border-t-2 pb-3 border-ink bg-raised px-4 text-left min-[900px]:hidden"
    >
      {conflict ? (
        <span className="col-span-3 grid grid-cols-[1fr_auto] items-center gap-3">
          <span className="line-clamp-3 leading-snug font-semibold">{conflict}</span>
          <span className="whitespace-nowrap text-accent">Ways out ▸</span>
        </span>
      ) : lines.length === 0 ? (
        <span className="col-span-3 leading-snug">No slip yet: it needs light</span>
      ) : (
        <>
          <span>
            <span className="block text-[0.8rem] text-soft">Lens</span>
            <b>{value("lens")}</b>
          </span>
          <span>
            <span className="block text-[0.8rem] text-soft">ISO</span>
            <b className="text-2xl leading-none">{value("iso")}</b>
          </span>
          <span>
            <span className="block text-[0.8rem] text-soft">Shutter</span>
            <b className="text-2xl leading-none">{value("shutter_s")}</b>
          </span>
          {alsoToDo.length > 0 && (
            <span className="col-span-3 -mt-2 truncate text-[0.85rem]">
              {alsoToDo.map((line) => line.value).join(" · ")}
            </span>
          )}
        </>
      )}
    </button>
  );
}
