import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";

import type { Situation } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { phonesQuery } from "../sheet/queries";
import { frameOf } from "./frames";
import { beginSheet } from "./queries";

const LAST_PHONE = "oxlen-phone";

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
  const [chosenPhone, setPhone] = useState(() => localStorage.getItem(LAST_PHONE));
  const inKit = phones.filter((entry) => !entry.removed).map((entry) => entry.profile);
  const phone = inKit.find((one) => one.id === chosenPhone)?.id ?? inKit[0]?.id ?? "";
  const begin = useMutation({
    mutationFn: () => beginSheet(outing, { situation: situation.id, answers, phone }),
    onSuccess: (sheet) => {
      localStorage.setItem(LAST_PHONE, phone);
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
            options={inKit.map((one) => ({ value: one.id, text: one.name }))}
            onChange={setPhone}
          />
        )}
        <Button look="quiet" onClick={onBack}>
          Choose another situation
        </Button>
      </div>
      <div className="grid content-start gap-5">
        {situation.questions.map((question) => (
          <fieldset key={question.id}>
            <legend className="mb-1.5 text-[1.05rem] font-semibold">{question.text}</legend>
            <div className="grid grid-cols-3 gap-2 max-md:grid-cols-1">
              {question.choices.map((choice) => (
                <label
                  key={choice.id}
                  className="flex min-h-11 cursor-pointer items-center gap-2 rounded border border-line bg-raised px-3 leading-tight hover:border-strong has-checked:border-2 has-checked:border-accent has-checked:bg-accent-soft"
                >
                  <input
                    type="radio"
                    name={question.id}
                    value={choice.id}
                    checked={(answers[question.id] ?? question.default) === choice.id}
                    onChange={() => setAnswers((all) => ({ ...all, [question.id]: choice.id }))}
                    className="h-5 w-5 accent-[var(--accent)]"
                  />
                  {choice.text}
                </label>
              ))}
            </div>
          </fieldset>
        ))}
        {begin.error && <p role="alert">{begin.error.message}</p>}
        <Button
          look="main"
          type="submit"
          className="min-h-12 justify-self-start px-6"
          disabled={phone === "" || begin.isPending}
        >
          Show slip
        </Button>
      </div>
    </form>
  );
}
