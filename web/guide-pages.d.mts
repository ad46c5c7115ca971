import type { Plugin } from "vite";

export function guidePages(): Plugin;
