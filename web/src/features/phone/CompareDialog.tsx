import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { KitPhone } from "../../api/client";
import { Dialog } from "../../ui/Dialog";
import { NumberField, Select } from "../../ui/Field";
import { compareQuery } from "./queries";

const SCENES = [
  { value: "14", text: "Sunlit hull" },
  { value: "12", text: "Grey day on the ramp" },
  { value: "7", text: "Lit workshop" },
  { value: "4", text: "Lantern evening" },
  { value: "0", text: "Night at the sluice" },
] as const;

interface Props {
  phones: KitPhone[];
  first: KitPhone;
  onClose: () => void;
}

/** Two phones or lenses on the same scene, handheld: which serves it better, line by line. */
export function CompareDialog({ phones, first, onClose }: Props) {
  const lenses = phones.flatMap(({ profile }) =>
    profile.lenses.map((lens) => ({
      value: `${profile.id}/${lens.id}`,
      text: `${profile.name}, ${lens.name}`,
    })),
  );
  const own = lenses.filter((lens) => lens.value.startsWith(`${first.profile.id}/`));
  const start = own[0]?.value ?? "";
  const [a, setA] = useState(start);
  const [b, setB] = useState(
    own[1]?.value ?? lenses.find((lens) => lens.value !== start)?.value ?? start,
  );
  const [scene, setScene] = useState<(typeof SCENES)[number]["value"]>("4");
  const [distance, setDistance] = useState(4);
  const { data: lines = [], error } = useQuery(compareQuery(a, b, Number(scene), distance));
  return (
    <Dialog wide open title="Compare phones" onOpenChange={(open) => !open && onClose()}>
      <div className="mb-4 grid gap-3 md:grid-cols-4">
        <Select label="First" value={a} options={lenses} onChange={setA} />
        <Select label="Second" value={b} options={lenses} onChange={setB} />
        <Select label="Scene" value={scene} options={SCENES} onChange={setScene} />
        <NumberField
          label="Subject distance"
          unit="m"
          value={distance}
          low={0.3}
          high={200}
          onCommit={(value) => value !== null && setDistance(value)}
        />
      </div>
      {error && <p role="alert">{error.message}</p>}
      <table className="w-full text-left text-lg">
        <thead>
          <tr className="text-[0.9rem] text-soft">
            <th className="font-normal" />
            <th className="font-normal">{lenses.find((lens) => lens.value === a)?.text}</th>
            <th className="font-normal">{lenses.find((lens) => lens.value === b)?.text}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.name} className="border-t border-line">
              <th className="py-1.5 pr-3 text-base font-normal text-soft">{line.name}</th>
              <Cell words={line.first} better={line.better === "first"} />
              <Cell words={line.second} better={line.better === "second"} />
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-soft">Handheld, for a large screen. The better value is marked.</p>
    </Dialog>
  );
}

function Cell({ words, better }: { words: string; better: boolean }) {
  return (
    <td className={better ? "font-semibold" : ""}>
      {better && (
        <span aria-label="better" className="mr-1.5 inline-block text-accent">
          ●
        </span>
      )}
      {words}
    </td>
  );
}
