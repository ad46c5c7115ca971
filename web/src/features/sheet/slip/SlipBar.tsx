import type { Line } from "./slipText";

interface Props {
  lines: Line[];
  conflict: string | undefined;
  onOpen: () => void;
}

/** On a small screen: the slip in short along the lower edge, one tap from the whole. */
export function SlipBar({ lines, conflict, onOpen }: Props) {
  const value = (field: string) => lines.find((line) => line.field === field)?.value;
  return (
    <button
      type="button"
      onClick={onOpen}
      className="no-print fixed inset-x-0 bottom-0 z-10 grid min-h-19 grid-cols-[auto_1fr_1fr] items-end gap-4 border-t-2 pb-3 border-ink bg-raised px-4 text-left min-[900px]:hidden"
    >
      {lines.length === 0 ? (
        <span className="col-span-3 line-clamp-2 leading-snug">
          {conflict ?? "No slip yet: it needs light"}
        </span>
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
            <span className="block text-[0.8rem] text-soft">
              {conflict ? "Shutter, not as asked" : "Shutter"}
            </span>
            <b className="text-2xl leading-none">{value("shutter_s")}</b>
          </span>
        </>
      )}
    </button>
  );
}
