import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useSearchParams } from "wouter";

import type { Situation } from "../../api/client";
import { frameOf } from "./frames";
import { OtherDoors, TakePicture } from "./OtherDoors";
import { Questions } from "./Questions";
import { situationsQuery } from "./queries";

/** A new sheet begins with the picture in one's head: what it is of, then what decides it. */
export function BeginPage() {
  const [address, setAddress] = useSearchParams();
  const outing = address.get("outing");
  const { data: situations = [], error } = useQuery(situationsQuery(outing));
  const chosen = situations.find((situation) => situation.id === address.get("of"));
  useEffect(() => {
    document.title = `${chosen?.name ?? "A new picture"} · Oxlen`;
  }, [chosen]);
  const choose = (id: string | null) =>
    setAddress((before) => {
      const next = new URLSearchParams(before);
      if (id === null) next.delete("of");
      else next.set("of", id);
      return next;
    });
  return (
    <main className="mx-auto max-w-[72rem] px-3 pb-16 md:px-6">
      <h1 className="pt-5 pb-1 text-2xl font-semibold">
        {chosen ? chosen.name : "What is the picture of?"}
      </h1>
      {error && <p className="py-3">{error.message}</p>}
      {chosen ? (
        <Questions situation={chosen} outing={outing} onBack={() => choose(null)} />
      ) : (
        <>
          <p className="pb-3 text-soft">
            Choose the nearest match and answer a few questions. You can change everything later.
          </p>
          <TakePicture outing={outing} />
          <Situations situations={situations} onChoose={choose} />
          <OtherDoors outing={outing} />
        </>
      )}
    </main>
  );
}

function Situations(props: { situations: Situation[]; onChoose: (id: string) => void }) {
  return (
    <ul className="grid grid-cols-6 gap-2.5 max-lg:grid-cols-4 max-md:grid-cols-2">
      {props.situations.map((situation) => (
        <li key={situation.id}>
          <button
            type="button"
            onClick={() => props.onChoose(situation.id)}
            className="flex h-full w-full flex-col overflow-hidden rounded border border-line bg-raised text-left hover:border-accent hover:bg-sunk"
          >
            <img src={frameOf(situation.id)} alt="" className="aspect-[4/3] w-full object-cover" />
            <span className="block px-2 py-1.5 leading-tight font-semibold">{situation.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
