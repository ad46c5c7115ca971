import { Link } from "wouter";

import { WORDS } from "./words";

/** An entry of the glossary, short, with the way to all of them. */
export function TermText({ id }: { id: string }) {
  const word = WORDS.find((word) => word.id === id);
  if (!word) return null;
  return (
    <>
      <b className="block">{word.name}</b>
      <span className="block leading-snug">{word.text}</span>
      <Link href={`/words#${id}`} className="mt-2 inline-block underline underline-offset-4">
        Glossary
      </Link>
    </>
  );
}
