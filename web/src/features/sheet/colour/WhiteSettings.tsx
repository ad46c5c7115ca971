import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { SheetBody, WhiteMeasured } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { NumberField, Select, TextField } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { AskField } from "../limits/AskField";
import type { EditorProps } from "../limits/LimitBoard";
import { useAsks } from "../limits/useAsks";
import { lampsQuery, measureWhite } from "../queries";

type LightColour = SheetBody["light_colour"];
type Lit = LightColour["lamps"][number];

interface Props extends EditorProps {
  sheetId: number;
  selected: string | null;
}

/** What lights the scene, a patch measured in the picture, the strategy, and colour on purpose. */
export function WhiteSettings(props: Props) {
  const { body, edit } = props;
  const { field } = useAsks();
  const colour = body.light_colour;
  const strategies = field(["light_colour", "strategy"])?.choices ?? [];
  const change = (does: string, part: Partial<LightColour>) =>
    edit(does, (b) => ({ ...b, light_colour: { ...b.light_colour, ...part } }));
  const usual = field(["light_colour", "usual"])?.choices ?? [];
  return (
    <div className="grid gap-x-5 gap-y-3 md:grid-cols-2">
      <div className="grid content-start gap-2">
        <Segmented
          small
          label="White balance method"
          value={colour.strategy}
          options={strategies.map((strategy) => ({
            ...strategy,
            value: strategy.value as LightColour["strategy"],
          }))}
          onChange={(strategy) => change("white balance", { strategy })}
        />
        <Select
          label="Light source"
          value={colour.usual ?? ""}
          options={[{ value: "", text: "not set" }, ...usual]}
          onChange={(next) => change("what lights it", { usual: next || null })}
        />
        <LampList lamps={colour.lamps} onChange={(lamps) => change("lamps", { lamps })} />
      </div>
      <div className="grid content-start gap-2">
        <PatchMeasure {...props} change={change} />
        <div className="grid grid-cols-[1fr_1.6fr] gap-2">
          <AskField
            {...{ body, edit, does: "mood" }}
            path={["light_colour", "mood_mired"]}
            label="Warmer by"
          />
          <AskField
            {...{ body, edit, does: "mood" }}
            path={["light_colour", "mood_reason"]}
            label="Why"
          />
        </div>
        <div className="grid grid-cols-2 gap-2">
          <Select
            label="Main colour"
            value={colour.ground ?? ""}
            options={[
              { value: "", text: "not set" },
              ...(field(["light_colour", "ground"])?.choices ?? []),
            ]}
            onChange={(next) =>
              change("ground", { ground: (next || null) as LightColour["ground"] })
            }
          />
          <Select
            label="Neutral patch"
            value={colour.neutral_in_frame === true ? "yes" : "no"}
            options={[
              { value: "no", text: "nothing" },
              { value: "yes", text: "something" },
            ]}
            onChange={(next) => change("neutral in frame", { neutral_in_frame: next === "yes" })}
          />
        </div>
      </div>
    </div>
  );
}

function LampList({ lamps, onChange }: { lamps: Lit[]; onChange: (lamps: Lit[]) => void }) {
  const { data: kit = [] } = useQuery(lampsQuery);
  const { field } = useAsks();
  const set = (index: number, part: Partial<Lit>) =>
    onChange(lamps.map((lamp, at) => (at === index ? { ...lamp, ...part } : lamp)));
  const add = (id: string) => {
    const found = kit.find((light) => light.id === id)?.lamp;
    const lamp: Lit = {
      name: found?.name ?? "A lamp",
      cct_k: found?.cct_k ?? 4000,
      duv: found?.duv ?? null,
      cri: found?.cri ?? null,
      share: 1,
      zone: "",
      favoured: false,
      plus_minus_mired: 5,
    };
    onChange([...lamps, lamp]);
  };
  const kelvin = field(["light_colour", "patch", "cct_k"]);
  return (
    <div className="grid gap-2">
      {lamps.map((lamp, index) => (
        <div
          key={`${index}-${lamp.name}`}
          className="grid grid-cols-[1.5fr_0.9fr_0.7fr_1fr_auto] items-end gap-1.5"
        >
          <TextField
            label="Lamp"
            value={lamp.name}
            maxLength={60}
            onCommit={(name) => set(index, { name })}
          />
          <NumberField
            label="Colour"
            unit="K"
            value={lamp.cct_k}
            low={kelvin?.low ?? 1000}
            high={kelvin?.high ?? 25000}
            onCommit={(cct_k) => cct_k !== null && set(index, { cct_k })}
          />
          <NumberField
            label="Share"
            value={lamp.share}
            low={0.001}
            high={1000}
            onCommit={(share) => share !== null && set(index, { share })}
          />
          <TextField
            label="Lights"
            value={lamp.zone}
            maxLength={60}
            onCommit={(zone) => set(index, { zone })}
          />
          <Button
            look="quiet"
            aria-label={`Remove ${lamp.name}`}
            onClick={() => onChange(lamps.filter((_, at) => at !== index))}
          >
            ×
          </Button>
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        {kit.map(({ id, lamp }) => (
          <Button key={id} onClick={() => add(id)}>
            Add {lamp.name}, {lamp.cct_k} K
          </Button>
        ))}
        <Button look="quiet" onClick={() => add("")}>
          Another lamp
        </Button>
      </div>
    </div>
  );
}

interface PatchProps extends Props {
  change: (does: string, part: Partial<LightColour>) => void;
}

/** Measures the spot that is chosen, or the neutral one, as a white or grey patch. */
function PatchMeasure({ body, sheetId, selected, change }: PatchProps) {
  const [found, setFound] = useState<WhiteMeasured | null>(null);
  const [problem, setProblem] = useState("");
  const [dial, setDial] = useState<number | null>(null);
  const spot =
    body.spots.find((spot) => spot.id === selected) ??
    body.spots.find((spot) => spot.role === "neutral");
  const { patch } = body.light_colour;
  const measure = () => {
    if (!spot) return;
    const place = new URLSearchParams({ x: `${spot.x}`, y: `${spot.y}`, r: `${spot.r}` });
    if (dial !== null) place.set("dial_k", String(dial));
    measureWhite(sheetId, place.toString()).then(
      (white) => {
        setProblem("");
        setFound(white);
        if (white.cct_k === null) return;
        change("measured patch", {
          patch: {
            cct_k: white.cct_k,
            duv: white.duv ?? 0,
            plus_minus_mired: white.plus_minus_mired,
            measured_in: white.measured_in === "raw" ? "raw" : "processed",
          },
        });
      },
      (error: unknown) => setProblem(error instanceof Error ? error.message : String(error)),
    );
  };
  return (
    <div className="grid gap-1.5 rounded border border-line p-2">
      {patch ? (
        <p className="flex items-baseline gap-2">
          <span>
            Patch: <b>{Math.round(patch.cct_k)} K</b> ± {Math.round(patch.plus_minus_mired)} mired
          </span>
          <Button
            look="quiet"
            className="ml-auto"
            onClick={() => change("No patch", { patch: null })}
          >
            Delete
          </Button>
        </p>
      ) : (
        <p className="leading-snug text-soft">
          {spot
            ? `“${spot.name || "the spot"}” can be measured as a white or grey patch.`
            : "Add a spot on something white or grey to measure the light."}
        </p>
      )}
      {spot && body.picture && (
        <div className="grid grid-cols-[1fr_auto] items-end gap-2">
          <NumberField
            label="Picture's white balance"
            value={dial}
            low={1000}
            high={25000}
            placeholder="from the file"
            onCommit={setDial}
          />
          <Button onClick={measure}>Measure {spot.name || "the spot"}</Button>
        </div>
      )}
      {(problem || found?.warning) && (
        <p role="status" className="text-[0.9rem] leading-snug">
          {problem || found?.warning}
          {found?.cast_mired != null &&
            found.cct_k === null &&
            ` Colour cast: ${Math.round(found.cast_mired)} mired.`}
        </p>
      )}
    </div>
  );
}
