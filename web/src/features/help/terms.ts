/** How the glossary's words are written in sentences: the entry, and how it is written. */
const WRITTEN: [id: string, pattern: string][] = [
  ["mired", "mired"],
  ["snr", "SNR"],
  ["npf", "NPF(?: rule)?"],
  ["duv", "Duv"],
  ["dioptre", "dioptres?"],
  ["bands", "[Ff]licker bands|Bands"],
  ["shake", "[Ss]afe shutter|[Cc]amera shake|Shake"],
  ["trail", "[Ss]tar trails?"],
  ["nd", "NDs?(?: filters?)?(?= |$|[.,;)])"],
  ["white", "[Cc]lipped|[Cc]lips|[Cc]lipping"],
  ["ev", "EV"],
  ["raw", "RAW"],
  ["bracket", "[Bb]racket(?:ed|ing)?"],
  ["stack", "[Ss]tack(?:ed|ing)?"],
  ["mid", "mid"],
  ["stop", "[Ss]tops?"],
  ["ways-out", "[Ww]ays out"],
  ["dry-run", "[Dd]ry run"],
  ["card", "[Ff]ield card"],
  ["bench", "[Bb]ench phone"],
];
const ANY = new RegExp(
  WRITTEN.map(([, pattern]) => `(?<![\\w-])(${pattern})(?![\\w-])`).join("|"),
  "g",
);

/** A part of a sentence; `id` is the glossary's entry for it, if it has one. */
export interface Part {
  text: string;
  id?: string;
}

/** A sentence in parts: the first time each of the glossary's words occurs is a part of its own. */
export function partsOf(sentence: string, known: Set<string> = new Set()): Part[] {
  const parts: Part[] = [];
  let from = 0;
  for (const match of sentence.matchAll(ANY)) {
    const id = WRITTEN[match.slice(1).findIndex(Boolean)]?.[0];
    if (id === undefined || known.has(id)) continue;
    known.add(id);
    if (match.index > from) parts.push({ text: sentence.slice(from, match.index) });
    parts.push({ text: match[0], id });
    from = match.index + match[0].length;
  }
  if (from < sentence.length) parts.push({ text: sentence.slice(from) });
  return parts;
}
