import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import type { InboxEntry } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { Preview } from "../../ui/Preview";
import { DropZone, PickButton } from "../outings/DropZone";
import { SheetChoice } from "./SheetChoice";
import { inboxQuery, letGo, placeInboxed } from "./queries";
import { TakingInBar } from "./TakingInBar";
import { useTakingIn } from "./useTakingIn";

/** Pictures without a sheet: dropped here, each with the sheet it most likely belongs to. */
export function InboxPart() {
  const { data: waiting = [] } = useQuery(inboxQuery);
  const client = useQueryClient();
  const say = useSay();
  const refresh = async () => {
    // A first look that is still under way was asked for before, and would count as the answer.
    await client.cancelQueries({ queryKey: ["inbox"] });
    await client.invalidateQueries({ queryKey: ["inbox"] });
  };
  const { state, take, cancel, dismiss } = useTakingIn({ path: "/inbox" });
  const takeAll = (files: File[]) => void take(files).then(refresh);
  const place = (places: [number, number][]) =>
    placeInboxed(places).then(
      async (left) => {
        client.setQueryData(inboxQuery.queryKey, left);
        await client.invalidateQueries({ queryKey: ["logbook"] });
        say(
          places.length === 1 ? "Added to its sheet." : `${places.length} added to their sheets.`,
        );
      },
      (error: unknown) =>
        say(error instanceof Error ? error.message : "That did not work. Try again."),
    );
  const sure = waiting.filter((entry) => entry.proposed.length > 0);
  return (
    <DropZone
      paste
      onFiles={takeAll}
      className="mb-5 rounded border border-line bg-panel p-3 md:p-4"
    >
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-lg font-semibold">
          {waiting.length === 0 ? "Import what you shot" : `${waiting.length} without a sheet`}
        </h2>
        {sure.length > 1 && (
          <Button
            look="main"
            onClick={() =>
              void place(sure.map((entry) => [entry.id, entry.proposed[0]?.sheet_id ?? 0]))
            }
          >
            Accept {sure.length} suggestions
          </Button>
        )}
        <PickButton text="Choose files" onFiles={takeAll} />
        <FolderButton onFiles={takeAll} />
      </div>
      <TakingInBar state={state} onCancel={cancel} onDismiss={dismiss} />
      {waiting.length === 0 && !state && (
        <p className="mt-1 text-soft">
          Drop pictures here, RAW and JPEG together. Oxlen suggests the sheet for each by time, lens
          and settings.
        </p>
      )}
      <ul className="mt-3 grid gap-2">
        {waiting.map((entry) => (
          <Waiting
            key={entry.id}
            entry={entry}
            onPlace={(sheet) => void place([[entry.id, sheet]])}
            onLetGo={() => void letGo(entry.id).then(refresh)}
          />
        ))}
      </ul>
    </DropZone>
  );
}

interface WaitingProps {
  entry: InboxEntry;
  onPlace: (sheet: number) => void;
  onLetGo: () => void;
}

function Waiting({ entry, onPlace, onLetGo }: WaitingProps) {
  const [first, ...others] = entry.proposed;
  const known = first !== undefined && entry.known_in.includes(first.sheet_id);
  return (
    <li className="flex flex-wrap items-center gap-3 border-t border-line pt-2">
      <span className="surround block h-14 w-20 shrink-0 overflow-hidden rounded-xs">
        <Preview picture={entry.picture} alt="" className="h-full w-full object-cover" lazy />
      </span>
      <span className="grid min-w-52 flex-1 leading-tight">
        <b>{entry.label || entry.file_name}</b>
        <span className="text-[0.9rem] text-soft">
          {[entry.file_name, entry.raw_picture && "RAW too", entry.taken_at?.replace("T", " ")]
            .filter(Boolean)
            .join(", ")}
        </span>
        {first && (
          <span className="text-[0.9rem]">
            {known ? "Already a take of that sheet" : `${first.title}: ${first.why}`}
          </span>
        )}
      </span>
      <span className="flex flex-wrap gap-2">
        {first && (
          <Button look="main" onClick={() => onPlace(first.sheet_id)}>
            Add to “{first.title}”
          </Button>
        )}
        <SheetChoice proposed={others} onChoose={onPlace} />
        <Button look="quiet" onClick={onLetGo}>
          Delete
        </Button>
      </span>
    </li>
  );
}

/** A whole folder of pictures at once. */
function FolderButton({ onFiles }: { onFiles: (files: File[]) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={(element) => {
          input.current = element;
          element?.setAttribute("webkitdirectory", "");
        }}
        type="file"
        className="hidden"
        aria-label="Folder of pictures"
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])].filter(
            (file) => !file.name.startsWith("."),
          );
          event.target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
      <Button className="max-[480px]:hidden" onClick={() => input.current?.click()}>
        Choose folder
      </Button>
    </>
  );
}
