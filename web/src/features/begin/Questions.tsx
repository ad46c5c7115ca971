import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";

import { type Begun, isPassing, type Situation } from "../../api/client";
import { newMark } from "../../api/marks";
import { beginSheet, keepBegun } from "../../api/waitingSheets";
import { NumberField, Select } from "../../ui/Field";
import { Button } from "../../ui/Button";
import { phonesQuery } from "../sheet/queries";
import { useSay } from "../../ui/Notices";
import { meQuery } from "../network/queries";
import { frameOf } from "./frames";

const LAST_PHONE = "oxlen-phone";
const LAST_MAINS = "oxlen-mains";

type Question = Situation["questions"][number];

interface Props {
  situation: Situation;
  outing: string | null;
  onBack: () => void;
}

/** The few questions that decide a situation, each with its usual answer already given. */
export function Questions({ situation, outing, onBack }: Props) {
  const [, go] = useLocation();
  const { data: phones = [] } = useQuery(phonesQuery);
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [numbers, setNumbers] = useState<Record<string, number>>({});
  const [mains, setMains] = useState<50 | 60>(() =>
    localStorage.getItem(LAST_MAINS) === "60" ? 60 : 50,
  );
  const [chosenPhone, setPhone] = useState(() => localStorage.getItem(LAST_PHONE));
  const inKit = phones.filter((entry) => !entry.removed).map((entry) => entry.profile);
  const phone = inKit.find((phone) => phone.id === chosenPhone)?.id ?? inKit[0]?.id ?? "";
  const answerTo = (question: Question) => answers[question.id] ?? question.default;
  const asked = situation.questions.filter(({ when }) => {
    const other = when && situation.questions.find((each) => each.id === when.question);
    return !other || when.choices.includes(answerTo(other));
  });
  const usual = (question: Question): Record<string, number> =>
    question.choices.find((choice) => choice.id === answerTo(question))?.numbers ?? {};
  const choose = (question: Question, choice: string) => {
    setAnswers((all) => ({ ...all, [question.id]: choice }));
    // What was typed for another does not hold for this one.
    const own = new Set(question.numbers.map((number) => number.id));
    setNumbers((all) => Object.fromEntries(Object.entries(all).filter(([id]) => !own.has(id))));
  };
  const typeNumber = (id: string, value: number | null) =>
    setNumbers((all) => {
      const others = Object.entries(all).filter(([other]) => other !== id);
      return Object.fromEntries(value === null ? others : [...others, [id, value]]);
    });
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const say = useSay();
  const begun: Begun = { situation: situation.id, answers, numbers, phone, mains_hz: mains };
  const begin = useMutation({
    mutationFn: () => beginSheet(outing, begun, newMark()),
    onError: async (error) => {
      if (!isPhone || !isPassing(error)) return;
      await keepBegun(outing, begun, situation.name);
      say("No connection. The new sheet waits on this phone.");
      go("/");
    },
    onSuccess: (sheet) => {
      localStorage.setItem(LAST_PHONE, phone);
      if (situation.asks_mains) localStorage.setItem(LAST_MAINS, String(mains));
      go(`/sheets/${sheet.id}`);
    },
  });
  return (
    <form
      className="grid gap-5 py-3 md:grid-cols-[20rem_1fr]"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate();
      }}
    >
      <div className="grid content-start gap-3">
        <img
          src={frameOf(situation.id)}
          alt=""
          className="aspect-[4/3] w-full rounded object-cover max-md:hidden"
        />
        {inKit.length > 1 && (
          <Select
            label="Phone"
            value={phone}
            options={inKit.map((phone) => ({ value: phone.id, text: phone.name }))}
            onChange={setPhone}
          />
        )}
        {situation.asks_mains && (
          <Select
            label="Mains frequency there"
            value={String(mains)}
            options={[
              { value: "50", text: "50 Hz" },
              { value: "60", text: "60 Hz" },
            ]}
            onChange={(hz) => setMains(hz === "60" ? 60 : 50)}
          />
        )}
        {situation.leads_to === "nights" && (
          <Button onClick={() => go("/places")}>Choose a night</Button>
        )}
        <Button look="quiet" onClick={onBack}>
          Choose another situation
        </Button>
      </div>
      <div className="grid content-start gap-4">
        {asked.map((question) => (
          <fieldset key={question.id}>
            <legend className="mb-1.5 text-[1.05rem] font-semibold">{question.text}</legend>
            <div className="grid grid-cols-4 gap-2 max-lg:grid-cols-3 max-md:grid-cols-2">
              {question.choices.map((choice) => (
                <label
                  key={choice.id}
                  className="flex min-h-11 cursor-pointer items-center gap-2 rounded border border-line bg-raised px-2.5 py-1 leading-tight hover:border-strong has-checked:border-2 has-checked:border-accent has-checked:bg-accent-soft"
                >
                  <input
                    type="radio"
                    name={question.id}
                    value={choice.id}
                    checked={answerTo(question) === choice.id}
                    onChange={() => choose(question, choice.id)}
                    className="h-5 w-5 shrink-0 accent-[var(--accent)]"
                  />
                  {choice.text}
                </label>
              ))}
            </div>
            {question.numbers.length > 0 && (
              <div className="mt-2 grid max-w-md grid-cols-2 gap-2">
                {question.numbers.map((number) => (
                  <NumberField
                    key={number.id}
                    label={number.text}
                    unit={number.unit}
                    low={number.low}
                    high={number.high}
                    value={numbers[number.id] ?? usual(question)[number.id] ?? null}
                    onCommit={(value) => typeNumber(number.id, value)}
                  />
                ))}
              </div>
            )}
          </fieldset>
        ))}
        {begin.error && <p role="alert">{begin.error.message}</p>}
        <Button
          look="main"
          type="submit"
          className="min-h-12 justify-self-start px-6 max-md:sticky max-md:bottom-3 max-md:w-full max-md:shadow-lg"
          disabled={phone === "" || begin.isPending}
        >
          Show slip
        </Button>
      </div>
    </form>
  );
}
