/// <reference types="vite/client" />
import { useState } from "react";

import { FIELD_WORDS, OWN_WORDS, type Word } from "./words";

const FRAMES = import.meta.glob<string>("./frames/*.jpg", {
  eager: true,
  query: "?url",
  import: "default",
});

/** What the words on screen mean: Oxlen's own first, then the field's. */
export function WordsPage() {
  const [asked, setAsked] = useState("");
  const groups = [
    { title: "Oxlen's words", words: found(OWN_WORDS, asked) },
    { title: "Photography", words: found(FIELD_WORDS, asked) },
  ].filter((group) => group.words.length > 0);
  return (
    <main className="mx-auto max-w-5xl px-4 py-5">
      <div className="mb-4 flex flex-wrap items-end gap-3">
        <h1 className="mr-auto text-[1.5rem] font-semibold">Glossary</h1>
        <input
          className="field w-64"
          type="search"
          aria-label="Find a word"
          placeholder="Find a word"
          value={asked}
          onChange={(event) => setAsked(event.target.value)}
        />
      </div>
      {groups.length === 0 && <p>No entry has “{asked}”. Try a shorter word.</p>}
      {groups.map(({ title, words }) => (
        <section key={title} aria-label={title} className="mb-6">
          <h2 className="mb-2 text-lg font-semibold">{title}</h2>
          <ul className="grid gap-3 md:grid-cols-2">
            {words.map((word) => (
              <Explained key={word.id} word={word} />
            ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

function found(words: readonly Word[], asked: string): Word[] {
  const wanted = asked.trim().toLowerCase();
  return words.filter(({ name, text }) => `${name} ${text}`.toLowerCase().includes(wanted));
}

function Explained({ word }: { word: Word }) {
  return (
    <li id={word.id} className="rounded border border-line bg-panel p-3">
      <h3 className="font-semibold">{word.name}</h3>
      <p className="leading-snug">{word.text}</p>
      {word.frames && (
        <div className="surround mt-2 grid auto-cols-fr grid-flow-col gap-2 rounded p-2">
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
      )}
    </li>
  );
}
