import type { PhoneAnswers } from "../../api/client";
import { NumberField, Select } from "../../ui/Field";
import { ShutterField } from "./ShutterField";

interface Props {
  answers: PhoneAnswers;
  lenses: { id: string; name: string }[];
  onChange: (answers: PhoneAnswers) => void;
}

const STEPS = [
  { value: "", text: "Not set (thirds)" },
  { value: "thirds", text: "Third stops" },
  { value: "halves", text: "Half stops" },
  { value: "wholes", text: "Whole stops" },
] as const;

/** What files cannot tell: four short questions, any of which may be left open. */
export function FourQuestions({ answers, lenses, onChange }: Props) {
  const set = (change: Partial<PhoneAnswers>) => onChange({ ...answers, ...change });
  const number = (name: keyof PhoneAnswers, label: string, example: string, unit?: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={(answers[name] as number | null | undefined) ?? null}
      placeholder={`e.g. ${example}`}
      onCommit={(value) => set({ [name]: value })}
    />
  );
  return (
    <div className="grid gap-x-6 gap-y-4 md:grid-cols-2">
      <Question words="1 · Manual ISO range">
        <div className="grid grid-cols-2 gap-2">
          {number("iso_low", "Lowest ISO", "50")}
          {number("iso_high", "Highest ISO", "3200")}
        </div>
      </Question>
      <Question words="2 · Manual shutter range">
        <div className="grid grid-cols-2 gap-2">
          <ShutterField
            label="Fastest shutter"
            example="1/8000"
            value={answers.shutter_fastest_s ?? null}
            onCommit={(value) => set({ shutter_fastest_s: value })}
          />
          <ShutterField
            label="Slowest shutter"
            example="10 s"
            value={answers.shutter_slowest_s ?? null}
            onCommit={(value) => set({ shutter_slowest_s: value })}
          />
        </div>
        <Select
          label="In steps of"
          value={answers.steps ?? ""}
          options={STEPS}
          onChange={(value) => set({ steps: value === "" ? null : value })}
        />
      </Question>
      <Question words="3 · White balance and focus">
        <div className="grid grid-cols-3 gap-2">
          {number("kelvin_low", "Kelvin from", "2300")}
          {number("kelvin_high", "to", "7500")}
          {number("kelvin_step", "step", "100")}
          {number("slider_low", "Nearest focus", "0")}
          {number("slider_high", "to", "1")}
          {number("slider_step", "step", "0.01")}
        </div>
      </Question>
      <Question words="4 · Lenses with RAW">
        <ul className="grid gap-1">
          {lenses.map((lens) => {
            const on = answers.raw_on ?? lenses.map((lens) => lens.id);
            return (
              <li key={lens.id}>
                <label className="inline-flex min-h-11 items-center gap-2">
                  <input
                    type="checkbox"
                    className="h-5 w-5 accent-(--accent)"
                    checked={on.includes(lens.id)}
                    onChange={(event) =>
                      set({
                        raw_on: event.target.checked
                          ? [...on, lens.id]
                          : on.filter((id) => id !== lens.id),
                      })
                    }
                  />
                  {lens.name}
                </label>
              </li>
            );
          })}
        </ul>
      </Question>
    </div>
  );
}

function Question({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <fieldset className="grid content-start gap-2">
      <legend className="mb-1 font-semibold">{words}</legend>
      {children}
    </fieldset>
  );
}
