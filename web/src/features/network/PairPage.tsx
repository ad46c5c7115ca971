import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "wouter";

import { Mark } from "../../app/Shell";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/Field";
import { meQuery, pair } from "./queries";

/** On the phone: six words let it in, typed or brought along by the code that was photographed. */
export function PairPage() {
  const [words, setWords] = useState(() => window.location.hash.slice(1).replaceAll("-", " "));
  const [name, setName] = useState(usualName);
  const [, go] = useLocation();
  const client = useQueryClient();
  const asked = useMutation({
    mutationFn: () => pair(words, name || "Phone"),
    onSuccess: async (me) => {
      client.setQueryData(meQuery.queryKey, me);
      await client.invalidateQueries();
      go("/", { replace: true });
    },
  });
  const brought = useRef(words !== "");
  const { mutate } = asked;
  useEffect(() => {
    // The words leave the address at once: nobody finds them in the phone's history.
    window.history.replaceState(null, "", "/pair");
    if (brought.current) mutate();
    brought.current = false;
  }, [mutate]);
  return (
    <main className="mx-auto grid min-h-dvh max-w-[26rem] content-center gap-5 px-5 py-8">
      <h1 className="flex items-center gap-3 text-2xl font-semibold">
        <Mark /> Pair this phone
      </h1>
      <p>Type the six words that Oxlen shows on the computer, under “On your phone”.</p>
      <TextField
        label="The six words"
        value={words}
        className="field min-h-14 text-xl"
        autoCapitalize="none"
        autoComplete="off"
        spellCheck={false}
        maxLength={120}
        onCommit={setWords}
      />
      <TextField label="Call this phone" value={name} maxLength={60} onCommit={setName} />
      {asked.error && (
        <p role="alert" className="rounded border-2 border-ink bg-raised p-3">
          {asked.error.message}
        </p>
      )}
      <Button
        look="main"
        className="min-h-14 text-lg"
        disabled={asked.isPending || words === ""}
        onClick={() => asked.mutate()}
      >
        {asked.isPending ? "Pairing…" : "Pair"}
      </Button>
    </main>
  );
}

/** What to call it to begin with: whatever is used by finger is a phone. */
function usualName(): string {
  return window.matchMedia("(pointer: coarse)").matches ? "My phone" : "Browser";
}
