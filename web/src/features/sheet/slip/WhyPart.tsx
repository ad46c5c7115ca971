import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type Bundle, type Why } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useSay } from "../../../ui/Notices";
import { Explained } from "../../help/Explained";

/** Why the slip is another than it was, and slips saved with all they rest on. */
export function WhyPart({ id, version }: { id: number; version: number }) {
  const [open, setOpen] = useState(false);
  const [since, setSince] = useState<number | null>(null);
  const [name, setName] = useState("");
  const client = useQueryClient();
  const say = useSay();
  const why = useQuery({
    queryKey: ["why", id, version, since],
    queryFn: () => ask<Why>(`/sheets/${id}/why${since === null ? "" : `?bundle=${since}`}`),
    enabled: open,
    retry: false,
  });
  const key = ["bundles", id];
  const saved = useQuery({
    queryKey: key,
    queryFn: () => ask<Bundle[]>(`/sheets/${id}/bundles`),
    enabled: open,
  });
  const keep = () =>
    ask<Bundle[]>(`/sheets/${id}/bundles`, { method: "POST", body: { name: name.trim() } }).then(
      (all) => {
        client.setQueryData(key, all);
        setName("");
      },
      (error: unknown) => say(error instanceof Error ? error.message : "Not saved. Try again."),
    );
  const letGo = (bundle: Bundle) =>
    ask<undefined>(`/bundles/${bundle.id}`, { method: "DELETE" }).then(() => {
      setSince(null);
      return client.invalidateQueries({ queryKey: key });
    });
  return (
    <details
      className="mt-2 border-t border-line text-[0.93rem]"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer py-2 text-base font-semibold">
        Why did it change?
      </summary>
      {why.data && (
        <>
          <p className="text-soft">{why.data.since}</p>
          <p>
            <Explained>{why.data.sentence}</Explained>
          </p>
          {why.data.causes.length > 1 && (
            <ul className="list-disc pl-5">
              {why.data.causes.map((words) => (
                <li key={words}>
                  <Explained>{words}</Explained>
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      {why.error && <p>{why.error.message}</p>}
      <ul className="mt-2 grid gap-1">
        {(saved.data ?? []).map((bundle) => (
          <li key={bundle.id} className="border-t border-line py-1">
            <b>{bundle.name}</b>: {bundle.slip}
            {!bundle.comes_out_same && " (today's rules give another slip)"}
            <span className="flex flex-wrap">
              <Button look="quiet" onClick={() => setSince(bundle.id)}>
                What changed since
              </Button>
              <a
                className="flex min-h-9 items-center px-3 underline"
                href={`/api/bundles/${bundle.id}/file`}
                download
              >
                File
              </a>
              <Button look="quiet" onClick={() => void letGo(bundle)}>
                Delete
              </Button>
            </span>
          </li>
        ))}
      </ul>
      <form
        className="mt-1 flex gap-1 pb-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) void keep();
        }}
      >
        <input
          className="field min-w-0 flex-1"
          aria-label="Slip name"
          placeholder="Slip name"
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit">Save</Button>
      </form>
    </details>
  );
}
