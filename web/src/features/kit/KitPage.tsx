import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation, useSearchParams } from "wouter";

import type { KitPhone, PhoneProfile } from "../../api/client";
import { Button } from "../../ui/Button";
import { ButtonLink } from "../../ui/ButtonLink";
import { useSay } from "../../ui/Notices";
import { CompareDialog } from "../phone/CompareDialog";
import { PracticeButton } from "../phone/PracticeButton";
import { saveText } from "../saveJson";
import { phonesQuery } from "../sheet/queries";
import { CameraDrawer } from "./CameraDrawer";
import { ClipOnDrawer } from "./ClipOnDrawer";
import { FilterDrawer } from "./FilterDrawer";
import { LampDrawer } from "./LampDrawer";
import { PhoneView } from "./PhoneView";
import { ProfileEditor } from "./ProfileEditor";
import { dropPhone, unreadableQuery } from "./queries";
import { useKitHere } from "./useKitHere";

/** The phones: what each lens and mode offers, and a way to make one's own. */
export function KitPage() {
  const { data, error } = useQuery(phonesQuery);
  const { data: unreadable = [] } = useQuery(unreadableQuery);
  const phones = data?.filter((entry) => !entry.removed);
  const [address] = useSearchParams();
  const [, go] = useLocation();
  const [chosen, setChosen] = useState<string | null>(address.get("phone"));
  const [comparing, setComparing] = useState(false);
  const [draft, setDraft] = useState<PhoneProfile | null>(null);
  const client = useQueryClient();
  const say = useSay();
  const shown = phones?.find((entry) => entry.profile.id === chosen) ?? phones?.[0];
  const isHere = useKitHere(shown?.profile.id);

  const remove = (id: string) => {
    dropPhone(id).then(
      () => client.invalidateQueries({ queryKey: ["phones"] }),
      (problem: unknown) => say(problem instanceof Error ? problem.message : String(problem)),
    );
  };
  if (!isHere) return <p className="p-6">Opening…</p>;
  return (
    <main className="mx-auto grid max-w-[80rem] gap-4 px-3 pb-16 md:grid-cols-[15rem_1fr] md:grid-rows-[auto_1fr] md:px-6">
      <div className="md:pt-5">
        <h1 className="py-3 text-2xl font-semibold md:pt-0">Kit</h1>
        {error && <p className="rounded border-2 border-ink bg-raised p-3">{error.message}</p>}
        <ul className="grid gap-1.5">
          {phones?.map((entry) => (
            <li key={entry.profile.id}>
              <button
                type="button"
                aria-pressed={entry === shown}
                onClick={() => setChosen(entry.profile.id)}
                className="min-h-12 w-full rounded border border-line bg-panel px-3 py-2 text-left aria-pressed:border-2 aria-pressed:border-accent aria-pressed:bg-raised"
              >
                <b className="block">{entry.profile.name}</b>
                <span className="text-[0.85rem] text-soft">
                  {entry.shipped ? "example phone" : "yours"} · {entry.profile.lenses.length}{" "}
                  {entry.profile.lenses.length === 1 ? "lens" : "lenses"}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <p className="mt-2">
          <Button onClick={() => go("/kit/new")}>Add your phone</Button>
        </p>
        <PracticeButton onKept={setChosen} />
        {unreadable.map(({ id, why, text }) => (
          <div key={id} className="mt-2 grid gap-2 rounded border-2 border-ink bg-raised p-3">
            <p className="text-[0.9rem]">{why}</p>
            <Button onClick={() => saveText(text, `${id}.json`)}>Save as text</Button>
            <Button look="quiet" onClick={() => remove(id)}>
              Delete
            </Button>
          </div>
        ))}
      </div>
      <div className="min-w-0 md:col-start-2 md:row-span-2 md:row-start-1">
        {shown && (
          <PhoneView
            phone={shown}
            onKept={(entry) => setChosen(entry.profile.id)}
            onPhone={setChosen}
            actions={
              <>
                <Button onClick={() => setComparing(true)}>Compare</Button>
                <ButtonLink href={`/api/kit/phones/${shown.profile.id}/file`} download>
                  Export
                </ButtonLink>
                {!shown.shipped && <Button onClick={() => remove(shown.profile.id)}>Delete</Button>}
                <Button
                  look="main"
                  onClick={() =>
                    setDraft(shown.shipped ? copyOf(shown.profile, data ?? []) : shown.profile)
                  }
                >
                  {shown.shipped ? "Copy and edit" : "Edit"}
                </Button>
              </>
            }
          />
        )}
      </div>
      <div className="md:col-start-1 md:row-start-2">
        <FilterDrawer />
        <LampDrawer />
        <ClipOnDrawer />
        <CameraDrawer />
      </div>
      {comparing && shown && (
        <CompareDialog phones={phones ?? []} first={shown} onClose={() => setComparing(false)} />
      )}
      {draft && (
        <ProfileEditor
          profile={draft}
          onClose={() => setDraft(null)}
          onKept={(id) => {
            setDraft(null);
            setChosen(id);
            void client.invalidateQueries({ queryKey: ["phones"] });
          }}
        />
      )}
    </main>
  );
}

function copyOf(profile: PhoneProfile, phones: KitPhone[]): PhoneProfile {
  const taken = new Set(phones.map((entry) => entry.profile.id));
  let number = 1;
  while (taken.has(`my-${profile.id}-${number}`)) number += 1;
  return { ...profile, id: `my-${profile.id}-${number}`, name: `My ${profile.name}` };
}
