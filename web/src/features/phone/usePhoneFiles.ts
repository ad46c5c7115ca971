import { useRef, useState } from "react";

import {
  type PhoneAnswers,
  type PhoneMade,
  Refusal,
  sendFile,
  type ReportedFacts,
} from "../../api/client";
import { makePhone } from "./queries";

export interface TakenFile {
  file: File;
  facts: ReportedFacts | null;
  /** Why it could not be read. */
  refused: string;
}

/** Pictures of a phone, read one after another, and the profile they tell together. */
export function usePhoneFiles(answers: PhoneAnswers) {
  const [files, setFiles] = useState<TakenFile[]>([]);
  const [reading, setReading] = useState<{ done: number; of: number } | null>(null);
  const [made, setMade] = useState<PhoneMade | null>(null);
  const [problem, setProblem] = useState("");
  const abort = useRef<AbortController>(undefined);

  const work = async (taken: readonly TakenFile[], given: PhoneAnswers) => {
    const facts = taken.flatMap((entry) => (entry.facts ? [entry.facts] : []));
    setProblem("");
    if (facts.length === 0) {
      setMade(null);
      return;
    }
    try {
      setMade(await makePhone(facts, given));
    } catch (error) {
      setMade(null);
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };

  const add = async (chosen: readonly File[]) => {
    const stop = new AbortController();
    abort.current = stop;
    const known = new Set(files.map((file) => `${file.file.name} ${file.file.size}`));
    const fresh = chosen.filter((file) => !known.has(`${file.name} ${file.size}`));
    const next = [...files];
    for (const [at, file] of fresh.entries()) {
      if (stop.signal.aborted) break;
      setReading({ done: at, of: fresh.length });
      const entry: TakenFile = { file, facts: null, refused: "" };
      try {
        const path = `/kit/facts?name=${encodeURIComponent(file.name)}`;
        entry.facts = await sendFile<ReportedFacts>(path, file, () => undefined, stop.signal);
      } catch (error) {
        if (!(error instanceof Refusal)) break;
        entry.refused = error.message;
      }
      next.push(entry);
      setFiles([...next]);
    }
    setReading(null);
    await work(next, answers);
  };
  const drop = (at: number) => {
    const next = files.filter((_, place) => place !== at);
    setFiles(next);
    void work(next, answers);
  };
  return {
    files,
    reading,
    made,
    problem,
    add,
    drop,
    rework: (given: PhoneAnswers) => work(files, given),
    cancel: () => abort.current?.abort(),
    facts: files.flatMap((file) => (file.facts ? [file.facts] : [])),
  };
}
