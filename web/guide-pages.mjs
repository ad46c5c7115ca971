// Pages of docs/guide as HTML: read when the app is built, their pictures copied beside the scripts.
import { readFile } from "node:fs/promises";
import { dirname, resolve } from "node:path";

import { marked } from "marked";

const PICTURE = /src="([^"]+\.png)"/g;

export function guidePages() {
  return {
    name: "guide-pages",
    async load(path) {
      if (!path.endsWith(".md")) return null;
      const html = await marked.parse(await readFile(path, "utf8"));
      const pictures = [...new Set([...html.matchAll(PICTURE)].map(([, src]) => src))];
      const imports = pictures.map(
        (src, at) => `import p${at} from ${JSON.stringify(`${resolve(dirname(path), src)}?url`)};`,
      );
      const swaps = pictures.map(
        (src, at) =>
          `.replaceAll(${JSON.stringify(`src="${src}"`)}, 'loading="lazy" src="' + p${at} + '"')`,
      );
      return `${imports.join("\n")}\nexport default ${JSON.stringify(html)}${swaps.join("")};`;
    },
  };
}
