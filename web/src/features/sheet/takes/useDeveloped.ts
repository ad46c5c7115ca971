import type { Recipe } from "../../../api/client";
import { useMadeImage } from "../../../api/useMadeImage";

/** A small picture of a take by a recipe, made anew a moment after each change; the last stays. */
export const useDeveloped = (takeId: number, recipe: Recipe) =>
  useMadeImage(`/takes/${takeId}/developed`, recipe);
