import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { NumberField, TextField } from "../../ui/Field";
import { useSay } from "../../ui/Notices";
import { glassQuery } from "../sheet/queries";
import { dropGlass, keepGlass } from "./queries";

/** The filters of the kit, with the factor each takes the light down by. */
export function GlassDrawer() {
  const { data: glass = [] } = useQuery(glassQuery);
  const client = useQueryClient();
  const say = useSay();
  const [name, setName] = useState("");
  const [factor, setFactor] = useState<number | null>(null);
  const done = (kept: Promise<unknown>) =>
    void kept.then(
      () => client.invalidateQueries({ queryKey: glassQuery.queryKey }),
      (error: unknown) => say(error instanceof Error ? error.message : String(error)),
    );
  const add = () => {
    if (!name.trim() || factor === null) return;
    const stem = name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "");
    const taken = glass.some((one) => one.id === stem);
    const id = (taken ? `${stem}-${glass.length + 1}` : stem).slice(0, 40) || "glass";
    done(keepGlass({ id, name: name.trim(), factor, note: "" }));
    setName("");
    setFactor(null);
  };
  return (
    <section aria-label="Filters" className="mt-5">
      <h2 className="mb-1 text-lg font-semibold">Filters</h2>
      <ul className="mb-2 grid">
        {glass.map((one) => (
          <li key={one.id} className="flex items-center gap-2 border-b border-line py-0.5">
            <span className="min-w-0 flex-1 leading-tight">
              <b>{one.name}</b>
              <span className="block text-[0.84rem] text-soft">
                {one.stops.toFixed(1)} stops{one.note && ` · ${one.note}`}
              </span>
            </span>
            <Button
              look="quiet"
              aria-label={`Remove ${one.name}`}
              onClick={() => done(dropGlass(one.id))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[1.3fr_1fr] gap-2">
        <TextField label="Name" value={name} maxLength={60} onCommit={setName} />
        <NumberField
          label="Factor"
          value={factor}
          low={1}
          high={1e7}
          placeholder="64"
          onCommit={setFactor}
        />
      </div>
      <Button className="mt-2" onClick={add} disabled={!name.trim() || factor === null}>
        Add a filter
      </Button>
    </section>
  );
}
