/** Titles for more pictures of a series: the number at the end goes on, or one begins. */
export function nextNames(title: string, taken: readonly string[], count: number): string[] {
  const [, stem = title, digits] = /^(.*?)\s*(\d{1,4})?$/.exec(title.trim()) ?? [];
  const names: string[] = [];
  for (let number = digits ? Number(digits) + 1 : 2; names.length < count; number++) {
    const name = `${stem} ${number}`.trim();
    if (!taken.includes(name)) names.push(name);
  }
  return names;
}

/** The names in typed or pasted text, one a line; a table's first column. */
export const namesIn = (text: string): string[] =>
  text
    .split(/\r?\n/)
    .map((line) => (line.split(/[\t;]/)[0] ?? "").trim().slice(0, 120))
    .filter(Boolean);
