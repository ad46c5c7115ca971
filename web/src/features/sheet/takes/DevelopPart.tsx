import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import {
  ask,
  askForFile,
  type Development,
  type KeptRecipe,
  type Recipe,
  type Take,
} from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useSay } from "../../../ui/Notices";
import { RecipeFields } from "./RecipeFields";
import { useDeveloped } from "./useDeveloped";
import { Explained } from "../../help/Explained";

/** What a take suggests for its development, a quick look at it, and files of it. */
export function DevelopPart({ take }: { take: Take }) {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="rounded border border-line px-3"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Develop</summary>
      {open && <Developing take={take} />}
    </details>
  );
}

function Developing({ take }: { take: Take }) {
  const key = ["development", take.id];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => ask<Development>(`/takes/${take.id}/development`),
    staleTime: Infinity,
  });
  const [chosen, setChosen] = useState<Recipe | null>(null);
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <p role="status">Measuring light and noise…</p>;
  const recipe = chosen ?? data.kept ?? data.recipe;
  return (
    <div className="grid gap-3 pb-3">
      <p className="text-[0.93rem] text-soft">
        {data.from_raw ? "From the RAW file." : "From the processed file. RAW allows more."} The
        original is not changed.
      </p>
      <ul className="list-disc pl-5 text-[0.95rem]">
        {data.sentences.map((words) => (
          <li key={words}>
            <Explained>{words}</Explained>
          </li>
        ))}
      </ul>
      <Look take={take} recipe={recipe} />
      <RecipeFields recipe={recipe} suggested={data.recipe} onChange={setChosen} />
      <Doing take={take} recipe={recipe} suggested={data.recipe} onChoose={setChosen} />
    </div>
  );
}

function Look({ take, recipe }: { take: Take; recipe: Recipe }) {
  const { url, error, isBusy } = useDeveloped(take.id, recipe);
  return (
    <div className="surround relative grid min-h-40 place-items-center rounded p-2">
      {url && (
        <img
          src={url}
          alt={`Developed take${isBusy ? ", before the last change" : ""}`}
          className={`max-h-[44dvh] max-w-full object-contain ${isBusy ? "opacity-70" : ""}`}
        />
      )}
      {!url && !error && <p className="text-white">Developing…</p>}
      {error && <p role="alert">{error}</p>}
    </div>
  );
}

interface DoingProps {
  take: Take;
  recipe: Recipe;
  suggested: Recipe;
  onChoose: (recipe: Recipe) => void;
}

function Doing({ take, recipe, suggested, onChoose }: DoingProps) {
  const client = useQueryClient();
  const say = useSay();
  const [making, setMaking] = useState<string | null>(null);
  const { data: others = [] } = useQuery({
    queryKey: ["recipes"],
    queryFn: () => ask<KeptRecipe[]>("/recipes"),
  });
  const complain = (error: unknown) =>
    say(error instanceof Error ? error.message : "That did not work. Try again.");
  const save = async (ending: "jpg" | "tif") => {
    setMaking(ending);
    try {
      const path = `/takes/${take.id}/developed?whole=true&ending=${ending}`;
      const link = document.createElement("a");
      link.href = URL.createObjectURL(await askForFile(path, recipe));
      link.download = `take-${take.id}.${ending}`;
      link.click();
      window.setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    } catch (error) {
      complain(error);
    }
    setMaking(null);
  };
  const keep = () =>
    ask(`/takes/${take.id}/recipe`, { method: "PUT", body: { recipe } }).then(async () => {
      say("Development saved with the take.");
      await client.invalidateQueries({ queryKey: ["recipes"] });
    }, complain);
  const other = others.filter((kept) => kept.take_id !== take.id);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button look="main" disabled={making !== null} onClick={() => void save("jpg")}>
        {making === "jpg" ? "Developing…" : "Save JPEG"}
      </Button>
      <Button disabled={making !== null} onClick={() => void save("tif")}>
        {making === "tif" ? "Developing…" : "Save 16-bit TIFF"}
      </Button>
      <Button onClick={() => void keep()}>Save steps</Button>
      <Button look="quiet" onClick={() => onChoose(suggested)}>
        Suggested
      </Button>
      {other.length > 0 && (
        <select
          aria-label="Steps of another take"
          className="field w-52"
          value=""
          onChange={(event) => {
            const found = other.find((kept) => String(kept.take_id) === event.target.value);
            if (found) onChoose(found.recipe);
          }}
        >
          <option value="">Steps of another take…</option>
          {other.map((kept) => (
            <option key={kept.take_id} value={kept.take_id}>
              {kept.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
