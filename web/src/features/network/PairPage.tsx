import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "wouter";

import { Mark } from "../../shell/Shell";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/Field";
import { ask, type Me, Refusal } from "../../api/client";
import { meQuery, pair } from "./queries";

const LOOK_EVERY_MS = 1500;

/**
 * On the phone: six words and a yes on the computer pair it; the words are typed, or
 * brought along by the code that was photographed.
 */
export function PairPage() {
  const [words, setWords] = useState(() => window.location.hash.slice(1).replaceAll("-", " "));
  const [name, setName] = useState(usualName);
  const [, go] = useLocation();
  const client = useQueryClient();
  const asked = useMutation({
    mutationFn: () => pair(words, name || "Phone"),
    onSuccess: () => setState("waiting"),
  });
  const [state, setState] = useState<"asking" | "waiting" | "refused">("asking");
  // Paired once the computer says so; one that waited already goes on waiting after a reload.
  useEffect(() => {
    let isOver = false;
    const look = async () => {
      const me = await ask<Me>("/me").catch((error: unknown) => error);
      if (isOver) return;
      if (!(me instanceof Error)) {
        client.setQueryData(meQuery.queryKey, me as Me);
        await client.invalidateQueries();
        go("/", { replace: true });
        return;
      }
      const code = me instanceof Refusal ? me.problem.code : "";
      if (code === "not-confirmed") setState("waiting");
      else if (code === "not-paired") setState((was) => (was === "waiting" ? "refused" : was));
    };
    if (state === "refused") return;
    void look();
    const timer = state === "waiting" ? window.setInterval(() => void look(), LOOK_EVERY_MS) : 0;
    return () => {
      isOver = true;
      window.clearInterval(timer);
    };
  }, [client, go, state]);
  const brought = useRef(words !== "");
  const { mutate } = asked;
  useEffect(() => {
    // The words leave the address at once: nobody finds them in the phone's history.
    window.history.replaceState(null, "", "/pair");
    if (brought.current) mutate();
    brought.current = false;
  }, [mutate]);
  if (state === "waiting")
    return (
      <main className="mx-auto grid min-h-dvh max-w-[26rem] content-center gap-5 px-5 py-8">
        <h1 className="flex items-center gap-3 text-2xl font-semibold">
          <Mark /> Confirm on the computer
        </h1>
        <p role="status" className="text-lg">
          The words are correct. Now tap <b>Allow</b> on the computer, on the page Phone.
        </p>
      </main>
    );
  return (
    <main className="mx-auto grid min-h-dvh max-w-[26rem] content-center gap-5 px-5 py-8">
      <h1 className="flex items-center gap-3 text-2xl font-semibold">
        <Mark /> Pair this phone
      </h1>
      <p>Type the six words that Oxlen shows on the computer, on the page Phone.</p>
      {state === "refused" && (
        <p role="alert" className="rounded border-2 border-ink bg-raised p-3">
          The computer refused this phone. Get new words and try again.
        </p>
      )}
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
      <TextField label="This phone's name" value={name} maxLength={60} onCommit={setName} />
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
