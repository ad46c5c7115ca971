import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "wouter";

import { ask, type Learned, type LearnedFigure } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { percent } from "../../ui/numbers";
import { MeasurePlot } from "../phone/MeasurePlot";
import { Explained } from "../help/Explained";

/** What all takes say together: the hand, the meter, noise, mistakes, and how true the ± were. */
export function LearnedPage() {
  const [phone, setPhone] = useState("");
  const client = useQueryClient();
  const asked = phone ? `?phone=${encodeURIComponent(phone)}` : "";
  const { data, error } = useQuery({
    queryKey: ["learned", phone],
    queryFn: () => ask<Learned>(`/learned${asked}`),
  });
  const use = useMutation({
    mutationFn: (figure: LearnedFigure) =>
      ask<Learned>("/learned", {
        method: "POST",
        body: { phone: data?.phone, name: figure.name, use: !figure.in_use },
      }),
    onSuccess: () => client.invalidateQueries(),
  });
  if (error) return <p className="p-6">{error.message}</p>;
  if (!data) return <p className="p-6">Reading your takes…</p>;
  return (
    <main className="mx-auto max-w-[64rem] px-4 pb-16 md:px-6">
      <Link href="/takes" className="mt-2 inline-flex min-h-11 items-center underline">
        Back to the takes
      </Link>
      <div className="flex flex-wrap items-end gap-4 py-4">
        <div className="mr-auto">
          <h1 className="text-2xl font-semibold">Learned from takes</h1>
          <p className="text-soft">
            {data.takes} {data.takes === 1 ? "take" : "takes"} on {data.phone_name} compared with
            their plan. Open a take to include it.
          </p>
        </div>
        {data.phones.length > 1 && (
          <div className="w-56">
            <Select
              label="Phone"
              value={data.phone}
              options={data.phones.map((phone) => ({ value: phone, text: phone }))}
              onChange={setPhone}
            />
          </div>
        )}
      </div>
      <div className="grid gap-4 md:grid-cols-2">
        {data.figures.map((figure) => (
          <Figure key={figure.name} figure={figure} onUse={() => use.mutate(figure)} />
        ))}
        <Part title="How often the ± was right">
          <p>
            <Explained>{data.calibration}</Explained>
          </p>
          {data.chances.length > 0 && <Chances chances={data.chances} />}
        </Part>
        <Part title="First changes needed">
          {data.mistakes.length === 0 ? (
            <p>No takes yet.</p>
          ) : (
            <ul className="grid gap-1">
              {data.mistakes.map((mistake) => (
                <Bar key={mistake.words} words={mistake.words} share={mistake.takes / data.takes}>
                  {mistake.takes}
                </Bar>
              ))}
            </ul>
          )}
        </Part>
        <Part title="Noise you accept">
          <p>
            <Explained>{data.noise}</Explained>
          </p>
        </Part>
      </div>
      {use.error && <p role="alert">{use.error.message}</p>}
    </main>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="rounded border border-line bg-panel p-4">
      <h2 className="mb-2 text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}

function Figure({ figure, onUse }: { figure: LearnedFigure; onUse: () => void }) {
  return (
    <Part title={figure.title}>
      <p>
        <Explained>{figure.words}</Explained>
      </p>
      {figure.plot && <MeasurePlot plot={figure.plot} />}
      {figure.value !== null && (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <Button look={figure.in_use ? "plain" : "main"} onClick={onUse}>
            {figure.in_use ? "Use phone's value" : "Use this"}
          </Button>
          {figure.in_use && <span className="text-soft">New slips use it.</span>}
        </div>
      )}
    </Part>
  );
}

function Chances({ chances }: { chances: Learned["chances"] }) {
  return (
    <table className="mt-3 w-full text-left text-[0.95rem]">
      <thead>
        <tr className="text-soft">
          <th className="font-normal">Predicted chance</th>
          <th className="font-normal">Takes</th>
          <th className="font-normal">Kept</th>
        </tr>
      </thead>
      <tbody>
        {chances.map((chance) => (
          <tr key={chance.low} className="border-t border-line">
            <td>
              {percent(chance.low)} to {percent(chance.high)}
            </td>
            <td>{chance.takes}</td>
            <td>
              {chance.kept} ({percent(chance.kept / chance.takes)})
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Bar({ words, share, children }: { words: string; share: number; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[1fr_3rem] items-center gap-2">
      <span className="relative">
        <span
          className="absolute inset-y-0 left-0 rounded-xs bg-accent-soft"
          style={{ width: `${Math.min(100, 100 * share)}%` }}
        />
        <span className="relative px-1">{words}</span>
      </span>
      <b className="text-right tabular-nums">{children}</b>
    </li>
  );
}
