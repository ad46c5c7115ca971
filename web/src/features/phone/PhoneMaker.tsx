import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useLocation } from "wouter";

import { ask, type OutingView, type PhoneAnswers, type PhoneMade } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { addOuting } from "../outings/queries";
import { DropZone, PickButton } from "../outings/DropZone";
import { useImport } from "../outings/useImport";
import { FourQuestions } from "./FourQuestions";
import { keepMadePhone } from "./queries";
import { type TakenFile, usePhoneFiles } from "./usePhoneFiles";
import { fixed, precise } from "../../ui/numbers";

/** One's own phone out of a few of its pictures, then four questions that files cannot answer. */
export function PhoneMaker() {
  const [answers, setAnswers] = useState<PhoneAnswers>({});
  const taken = usePhoneFiles(answers);
  const { files, made, reading, problem } = taken;
  const [kept, setKept] = useState<PhoneMade | null>(null);
  const [refused, setRefused] = useState("");
  const client = useQueryClient();
  useEffect(() => {
    document.title = "Your phone · Oxlen";
  }, []);
  const keep = () =>
    keepMadePhone(taken.facts, answers).then(
      (phone) => {
        setKept(phone);
        void client.invalidateQueries({ queryKey: ["phones"] });
      },
      (error: unknown) => setRefused(error instanceof Error ? error.message : String(error)),
    );
  const answer = (next: PhoneAnswers) => {
    setAnswers(next);
    setRefused("");
    void taken.rework(next);
  };
  if (kept) return <Kept phone={kept} files={files} />;
  const ready = made !== null && !reading;
  return (
    <main className="mx-auto max-w-[72rem] px-3 pb-28 md:px-6">
      <h1 className="pt-5 pb-1 text-2xl font-semibold">Your phone</h1>
      <p className="max-w-[68ch] pb-4 text-soft">
        Drop 3 to 10 original pictures, some RAW, from each lens. Oxlen reads the phone's data from
        them. The pictures are not saved.
      </p>
      <DropZone
        paste
        onFiles={(chosen) => void taken.add(chosen)}
        className="rounded border border-line bg-panel p-4"
      >
        <div className="flex flex-wrap items-center gap-3">
          <PickButton
            look={files.length === 0 ? "main" : "plain"}
            text={files.length === 0 ? "Choose pictures" : "Add pictures"}
            onFiles={(chosen) => void taken.add(chosen)}
          />
          <span className="text-soft">or drop them anywhere on this page.</span>
        </div>
        {reading && (
          <p role="status" className="mt-3 flex items-center gap-3">
            <progress className="flex-1 accent-(--accent)" value={reading.done} max={reading.of} />
            Reading {reading.done + 1} of {reading.of}
            <Button onClick={taken.cancel}>Stop</Button>
          </p>
        )}
        <FileList files={files} onDrop={taken.drop} />
      </DropZone>
      {[problem, refused].filter(Boolean).map((words) => (
        <p key={words} role="alert" className="mt-3 rounded border-2 border-ink bg-raised p-3">
          {words}
        </p>
      ))}
      {made && (
        <>
          <Found made={made} />
          <section
            aria-label="Four questions"
            className="mt-5 rounded border border-line bg-panel p-4"
          >
            <h2 className="text-lg font-semibold">Four things files do not show</h2>
            <p className="mb-3 text-soft">
              Look them up in your manual mode. Anything you skip is assumed.
            </p>
            <FourQuestions answers={answers} lenses={made.phone.profile.lenses} onChange={answer} />
          </section>
          <div className="fixed inset-x-0 bottom-0 z-10 border-t border-line bg-panel px-3 py-3 md:px-6">
            <div className="mx-auto flex max-w-[69rem] items-center justify-end gap-3">
              <span className="mr-auto text-soft max-md:hidden">
                You can measure and change it later in the kit.
              </span>
              <Button look="main" disabled={!ready} onClick={() => void keep()}>
                Keep {made.phone.profile.name}
              </Button>
            </div>
          </div>
        </>
      )}
    </main>
  );
}

function FileList({ files, onDrop }: { files: TakenFile[]; onDrop: (at: number) => void }) {
  if (files.length === 0) return null;
  return (
    <ul className="mt-3 grid gap-x-6 md:grid-cols-2">
      {files.map((file, at) => (
        <li
          key={`${file.file.name}-${at}`}
          className="flex min-h-11 items-center gap-2 border-t border-line py-1"
        >
          <span className="min-w-0 flex-1 leading-tight">
            <span className="block truncate">{file.file.name}</span>
            <span className="text-[0.88rem] text-soft">{file.refused || factWords(file)}</span>
          </span>
          <Button look="quiet" aria-label={`Remove ${file.file.name}`} onClick={() => onDrop(at)}>
            ×
          </Button>
        </li>
      ))}
    </ul>
  );
}

function factWords({ facts }: TakenFile): string {
  if (!facts) return "";
  const size =
    facts.long_px && facts.short_px
      ? `${precise((facts.long_px * facts.short_px) / 1e6, 3)} MP`
      : "cut short";
  const lens = facts.focal35_mm ?? facts.focal_mm;
  const named = lens ? `${lens} mm` : "no lens named";
  const aperture = facts.f_number ? ` f/${facts.f_number}` : "";
  return `${facts.kind === "raw" ? "RAW" : facts.format} · ${size} · ${named}${aperture}`;
}

/** What the pictures tell: lenses, what is sure, what is assumed, what was left out. */
function Found({ made }: { made: PhoneMade }) {
  const { profile, origins } = made.phone;
  const counted = Object.values(origins).filter((origin) => origin.origin === "file").length;
  return (
    <section aria-label="Result" className="mt-5 rounded border border-line bg-panel p-4">
      <h2 className="text-lg font-semibold">{profile.name}</h2>
      <p className="text-soft">
        {counted} figures come from its files. The rest is assumed and can be measured later.
      </p>
      <table className="mt-2 w-full text-left">
        <thead>
          <tr className="text-[0.88rem] text-soft">
            <th className="font-normal">Lens</th>
            <th className="font-normal">35 mm equivalent</th>
            <th className="font-normal">Aperture</th>
            <th className="font-normal">Pixels</th>
            <th className="font-normal max-md:hidden">Noise</th>
          </tr>
        </thead>
        <tbody>
          {profile.lenses.map((lens) => {
            const [mode] = lens.modes;
            const noise = origins[`lenses.${lens.id}.${mode?.id ?? ""}.full_well_e`]?.origin;
            return (
              <tr key={lens.id} className="border-t border-line">
                <th className="py-1.5">{lens.name}</th>
                <td>{precise(lens.focal35_mm, 3)} mm</td>
                <td>f/{precise(lens.f_number, 2)}</td>
                <td>
                  {lens.modes.map((mode) => mode.name).join(", ")}
                  {mode && <span className="text-soft"> · {fixed(mode.pixel_pitch_um, 2)} µm</span>}
                </td>
                <td className="max-md:hidden">{noise === "file" ? "from RAW" : "assumed"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {made.notes.length > 0 && (
        <ul className="mt-3 list-disc pl-5 text-[0.95rem]">
          {made.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The phone is kept: on to a picture planned with it, or to what sharpens its figures. */
function Kept({ phone, files }: { phone: PhoneMade; files: TakenFile[] }) {
  const [, go] = useLocation();
  const say = useSay();
  const { profile } = phone.phone;
  const first = files.find((file) => file.facts?.kind === "processed") ?? files[0];
  const home = async () => {
    const [newest] = await ask<OutingView[]>("/outings?most=1&words=");
    const found =
      newest ?? (await addOuting({ title: "First outing", place: "", light_window: "" }));
    return `/outings/${found.id}/pictures`;
  };
  const { take } = useImport(home);
  const begin = async () => {
    if (!first) return;
    const done = await take([first.file]);
    const sheet = done.find((incoming) => incoming.taken)?.taken?.sheet;
    if (sheet) go(`/sheets/${sheet.id}`);
    else say(done[0]?.notes[0] ?? "That picture could not be imported.");
  };
  return (
    <main className="mx-auto max-w-[72rem] px-3 pb-16 md:px-6">
      <h1 className="pt-5 pb-1 text-2xl font-semibold">{profile.name} is in your kit</h1>
      <p className="pb-4 text-soft">New sheets use it.</p>
      <div className="grid gap-3 md:grid-cols-3">
        <Way title="Plan a picture" words="Answer two or three questions to get the slip.">
          <Button look="main" onClick={() => go("/begin")}>
            Plan a picture
          </Button>
        </Way>
        {first && (
          <Way title="Use one of these pictures" words={`Plan from ${first.file.name}.`}>
            <Button onClick={() => void begin()}>Use this picture</Button>
          </Way>
        )}
        <Way
          title="Measure your phone"
          words="Short measurements of 1 to 10 minutes. The kit shows which helps most."
        >
          <Button onClick={() => go(`/kit?phone=${profile.id}`)}>Open kit</Button>
        </Way>
      </div>
    </main>
  );
}

function Way(props: { title: string; words: string; children: React.ReactNode }) {
  return (
    <section className="grid content-between gap-3 rounded border border-line bg-panel p-4">
      <div>
        <h2 className="font-semibold">{props.title}</h2>
        <p className="leading-snug text-soft">{props.words}</p>
      </div>
      <div>{props.children}</div>
    </section>
  );
}
