import { useCamera } from "../../outings/useCamera";
import type { Line } from "./slipText";

interface Props {
  lines: Line[];
  /** What blocks a slip; undefined where nothing does, or steps are chosen by hand. */
  conflict: string | undefined;
  onOpen: () => void;
  /** Takes the picture that was just taken of the light. */
  onFiles: (files: File[]) => void;
}

const ON_THE_BAR = ["lens", "iso", "shutter_s"];

/** On a small screen: the slip in short along the lower edge, one tap from the whole. */
export function SlipBar({ lines, conflict, onOpen, onFiles }: Props) {
  const value = (field: string) => lines.find((line) => line.field === field)?.value;
  const alsoToDo = lines.filter((line) => !ON_THE_BAR.includes(line.field));
  return (
    <div className="no-print fixed inset-x-0 bottom-0 z-10 flex flex-wrap border-t-2 border-ink bg-raised min-[900px]:hidden">
      <button
        type="button"
        onClick={onOpen}
        className="flex min-h-19 min-w-[min(15rem,100%)] grow-[999] basis-0 flex-wrap items-end gap-x-6 px-4 pb-2 text-left"
      >
        {value("shutter_s") === undefined ? (
          <span className="basis-full leading-snug">
            {conflict ? <Conflict sentence={conflict} /> : "No slip yet. Add light."}
          </span>
        ) : (
          <>
            <span>
              <span className="block text-[0.8rem] text-soft">Lens</span>
              <b data-fact="lens">{value("lens")}</b>
            </span>
            <span>
              <span className="block text-[0.8rem] text-soft">ISO</span>
              <b className="text-2xl leading-none" data-fact="iso">
                {value("iso")}
              </b>
            </span>
            <span>
              <span className="block text-[0.8rem] text-soft">Shutter</span>
              <b className="text-2xl leading-none whitespace-nowrap" data-fact="shutter_s">
                {value("shutter_s")}
              </b>
            </span>
            <span className="basis-full text-[0.85rem] leading-tight">
              {conflict ? (
                <Conflict sentence={conflict} />
              ) : (
                alsoToDo.map((line) => line.value).join(" · ")
              )}
            </span>
          </>
        )}
      </button>
      <ReadAgain onFiles={onFiles} />
    </div>
  );
}

/** What collides, and that there are ways out. */
function Conflict({ sentence }: { sentence: string }) {
  return (
    <>
      <b>{sentence}</b> <span className="whitespace-nowrap text-accent">Ways out ▸</span>
    </>
  );
}

/** On a phone: its camera, on auto, and the light read anew from what it took. */
function ReadAgain({ onFiles }: { onFiles: Props["onFiles"] }) {
  const { input, take } = useCamera(onFiles);
  if (!take) return null;
  return (
    <>
      {input}
      <button
        type="button"
        onClick={take}
        className="grid min-h-13 min-w-21 grow basis-21 place-content-center justify-items-center gap-0.5 bg-accent px-1 text-[0.85rem] leading-tight font-semibold text-on-accent"
      >
        <svg viewBox="0 0 32 24" className="h-6 w-8" aria-hidden="true">
          <path
            d="M3 6h6l2-3h10l2 3h6v15H3z"
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
            strokeLinejoin="round"
          />
          <circle cx="16" cy="13" r="4.5" fill="none" stroke="currentColor" strokeWidth="2" />
        </svg>
        Read light
      </button>
    </>
  );
}
