import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { keepMysteryPhone } from "./queries";

const SEEDS = 10_000;

/** A phone with hidden figures, to practise every measurement on with no phone at hand. */
export function PracticeButton({ onKept }: { onKept: (id: string) => void }) {
  const [busy, setBusy] = useState(false);
  const client = useQueryClient();
  const say = useSay();
  const draw = () => {
    setBusy(true);
    keepMysteryPhone(Math.floor(Math.random() * SEEDS))
      .then(
        async (kept) => {
          await client.invalidateQueries({ queryKey: ["phones"] });
          onKept(kept.profile.id);
        },
        (error: unknown) => say(error instanceof Error ? error.message : String(error)),
      )
      .finally(() => setBusy(false));
  };
  return (
    <p className="mt-1">
      <Button look="quiet" disabled={busy} onClick={draw}>
        {busy ? "Making a phone…" : "Practise measuring"}
      </Button>
    </p>
  );
}
