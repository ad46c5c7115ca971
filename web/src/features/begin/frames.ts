/** The small frame of each situation, photographed from the scenes. */
const FOUND = import.meta.glob<string>("./frames/*.jpg", { eager: true, import: "default" });

export function frameOf(situation: string): string | undefined {
  return FOUND[`./frames/${situation}.jpg`];
}
