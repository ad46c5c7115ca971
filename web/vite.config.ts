import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

import { guidePages } from "./guide-pages.mjs";

export default defineConfig({
  plugins: [guidePages(), react(), tailwindcss()],
  build: {
    target: "es2022",
    // Which parts a page needs, so that all of them are fetched at once.
    manifest: "pages.json",
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
    rollupOptions: {
      input: { index: "index.html", sw: "src/worker/sw.ts" },
      output: {
        // Few files: each costs a phone a way there and back. What several pages share is one.
        codeSplitting: {
          groups: [{ name: "shared", test: /src|node_modules/, minShareCount: 3, minSize: 0 }],
        },
        // The worker's reach is the folder it lies in: it stands beside the page, by one name.
        entryFileNames: ({ name }) => (name === "sw" ? "sw.js" : "assets/[name]-[hash].js"),
      },
    },
  },
  // The guide lies beside this folder.
  server: { fs: { allow: [".."] }, proxy: { "/api": "http://127.0.0.1:8710" } },
});
