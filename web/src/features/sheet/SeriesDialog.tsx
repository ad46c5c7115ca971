import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type SheetView } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { useSay } from "../../ui/Notices";
import { outingQuery } from "../outings/queries";
import { useAsks } from "./limits/useAsks";

interface Props {
  sheet: SheetView;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** One slip for a set: what is locked over which sheets; the rest may differ. */
export function SeriesDialog({ sheet, open, onOpenChange }: Props) {
  const client = useQueryClient();
  const say = useSay();
  const { data: outing } = useQuery({ ...outingQuery(sheet.outing_id), enabled: open });
  const others = outing?.sheets.filter((one) => one.id !== sheet.id) ?? [];
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const { seriesParts } = useAsks();
  const [asked, setLocked] = useState<readonly string[] | null>(null);
  const locked = asked ?? seriesParts.map((part) => part.id);
  const use = useMutation({
    mutationFn: () =>
      ask<{ sheets: number[] }>(`/sheets/${sheet.id}/set`, {
        method: "POST",
        body: { sheets: chosen, locked },
      }),
    onSuccess: ({ sheets }) => {
      sheets.forEach((id) => client.removeQueries({ queryKey: ["sheet", id] }));
      void client.invalidateQueries({ queryKey: ["outings"] });
      say(`${sheets.length} ${sheets.length === 1 ? "sheet has" : "sheets have"} this slip now.`);
      onOpenChange(false);
    },
    onError: (problem) => say(problem.message),
  });
  const toggled = <T,>(all: readonly T[], one: T) =>
    all.includes(one) ? all.filter((each) => each !== one) : [...all, one];
  return (
    <Dialog title="Use this slip for a series" open={open} onOpenChange={onOpenChange}>
      <p className="mb-3 leading-snug">
        A series is shot alike. Locked settings are the same on every sheet of it.
      </p>
      <Checks
        legend="Locked"
        options={seriesParts.map((part) => ({ value: part.id, text: part.name }))}
        chosen={locked}
        onToggle={(one) => setLocked(toggled(locked, one))}
      />
      <Checks
        legend="For these sheets"
        options={others.map((other) => ({ value: other.id, text: other.title }))}
        chosen={chosen}
        onToggle={(one) => setChosen((all) => toggled(all, one))}
      />
      <Button
        look="main"
        className="mt-3"
        disabled={chosen.length === 0 || locked.length === 0 || use.isPending}
        onClick={() => use.mutate()}
      >
        Use for {chosen.length || "no"} {chosen.length === 1 ? "sheet" : "sheets"}
      </Button>
    </Dialog>
  );
}

interface ChecksProps<T> {
  legend: string;
  options: readonly { value: T; text: string }[];
  chosen: readonly T[];
  onToggle: (value: T) => void;
}

function Checks<T extends string | number>({ legend, options, chosen, onToggle }: ChecksProps<T>) {
  return (
    <fieldset className="mb-3">
      <legend className="font-semibold">{legend}</legend>
      {options.map((option) => (
        <label key={option.value} className="flex min-h-9 items-center gap-2 max-[899px]:min-h-11">
          <input
            type="checkbox"
            checked={chosen.includes(option.value)}
            onChange={() => onToggle(option.value)}
            className="h-5 w-5 accent-[var(--accent)]"
          />
          {option.text}
        </label>
      ))}
    </fieldset>
  );
}
