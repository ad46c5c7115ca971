/// <reference types="vite/client" />
import { type Word, WORDS } from "./words";

const FRAMES = import.meta.glob<string>("./frames/*.jpg", {
  eager: true,
  query: "?url",
  import: "default",
});

/** The dozen words that Oxlen cannot do without, each with frames of the demo scenes. */
export function WordsPage() {
  return (
    <main className="mx-auto max-w-5xl px-4 py-5">
      <h1 className="mb-1 text-[1.5rem] font-semibold">Glossary</h1>
      <p className="mb-4 max-w-[62ch] leading-snug text-soft">
        What the words on screen mean. The frames are of Kettle Reach, shot on the bench phone.
      </p>
      <ul className="grid gap-3 md:grid-cols-2">
        {WORDS.map((word) => (
          <Explained key={word.id} word={word} />
        ))}
      </ul>
    </main>
  );
}

function Explained({ word }: { word: Word }) {
  return (
    <li id={word.id} className="rounded border border-line bg-panel p-3">
      <h2 className="font-semibold">{word.name}</h2>
      <p className="mb-2 leading-snug">{word.text}</p>
      <div className="surround grid auto-cols-fr grid-flow-col gap-2 rounded p-2">
        {word.frames.map((caption, index) => (
          <figure key={caption} className="max-w-[17rem]">
            <img
              src={FRAMES[`./frames/${word.id}-${index + 1}.jpg`]}
              alt={caption}
              loading="lazy"
              className="block w-full"
              style={{ filter: "var(--picture-filter)" }}
            />
            <figcaption className="pt-1 text-[0.85rem] leading-tight">{caption}</figcaption>
          </figure>
        ))}
      </div>
    </li>
  );
}
