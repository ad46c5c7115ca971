import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import type { OutingTaken } from "../../api/client";
import { importWords, useFileImport } from "../../api/useFileImport";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";

/** Imports an outing that another Oxlen saved as a file. */
export function OutingFileButton() {
  const client = useQueryClient();
  const say = useSay();
  const input = useRef<HTMLInputElement>(null);
  const importing = useFileImport("/outing-files", async ({ outing }) => {
    await client.invalidateQueries();
    if (outing) say([summed(outing), ...outing.notes].join(" "));
  });
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
          if (file) void importing.begin(file);
        }}
      />
      {importing.now ? (
        <span role="status" className="flex items-center gap-2">
          <span className="text-soft">{importWords(importing.now)}</span>
          <Button look="quiet" onClick={importing.cancel}>
            Cancel
          </Button>
        </span>
      ) : (
        <Button look="quiet" className="max-[480px]:hidden" onClick={() => input.current?.click()}>
          Import outing
        </Button>
      )}
    </>
  );
}

function summed(done: OutingTaken): string {
  const { new_sheets, changed_sheets, new_pictures, new_takes } = done;
  if (new_sheets + changed_sheets + new_pictures + new_takes === 0)
    return "Nothing new. Everything in that file is already here.";
  const parts = [
    count(new_sheets, "new sheet"),
    count(changed_sheets, "changed sheet"),
    count(new_pictures, "picture"),
    count(new_takes, "take"),
  ].filter(Boolean);
  return `Imported: ${parts.join(", ")}.`;
}

function count(number: number, noun: string): string {
  if (number === 0) return "";
  return number === 1 ? `1 ${noun}` : `${number} ${noun}s`;
}
