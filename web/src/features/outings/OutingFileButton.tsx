import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { type OutingTaken, Refusal, sendFile } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";

/** Takes in an outing that another Oxlen saved as a file. */
export function OutingFileButton() {
  const client = useQueryClient();
  const say = useSay();
  const input = useRef<HTMLInputElement>(null);
  const [share, setShare] = useState<number | null>(null);
  const take = async (file: File) => {
    setShare(0);
    try {
      const { signal } = new AbortController();
      const done = await sendFile<OutingTaken>("/outing-files", file, setShare, signal);
      await client.invalidateQueries();
      say([summed(done), ...done.notes].join(" "));
    } catch (error) {
      say(error instanceof Refusal ? error.message : "That file could not be taken in.");
    }
    setShare(null);
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        className="hidden"
        aria-label="Outing file"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) void take(file);
        }}
      />
      <Button
        look="quiet"
        className="max-[480px]:hidden"
        disabled={share !== null}
        onClick={() => input.current?.click()}
      >
        {share === null ? "Open an outing file" : share < 1 ? percent(share) : "Reading…"}
      </Button>
    </>
  );
}

const percent = (share: number) => `Sending ${Math.round(100 * share)} %`;

function summed(done: OutingTaken): string {
  const { new_sheets, changed_sheets, new_pictures, new_takes } = done;
  if (new_sheets + changed_sheets + new_pictures + new_takes === 0)
    return "All of that file is here already.";
  const parts = [
    count(new_sheets, "new sheet"),
    count(changed_sheets, "changed sheet"),
    count(new_pictures, "picture"),
    count(new_takes, "take"),
  ].filter(Boolean);
  return `Taken in: ${parts.join(", ")}.`;
}

function count(number: number, noun: string): string {
  if (number === 0) return "";
  return number === 1 ? `1 ${noun}` : `${number} ${noun}s`;
}
