import { useQuery, useQueryClient } from "@tanstack/react-query";

import { ask } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { useSay } from "../../ui/Notices";
import { binQuery } from "./queries";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** What was deleted and can be taken back. */
export function BinDialog({ open, onOpenChange }: Props) {
  const { data: bin } = useQuery({ ...binQuery, enabled: open });
  const client = useQueryClient();
  const say = useSay();
  const restore = (path: string) => {
    ask(`${path}/restore`, { method: "POST" }).then(
      () => client.invalidateQueries(),
      (error: unknown) => say(error instanceof Error ? error.message : String(error)),
    );
  };
  const entries = [
    ...(bin?.outings ?? []).map((o) => ({
      key: `/outings/${o.id}`,
      title: o.title,
      kind: "outing",
    })),
    ...(bin?.sheets ?? []).map((s) => ({ key: `/sheets/${s.id}`, title: s.title, kind: "sheet" })),
  ];
  return (
    <Dialog title="Bin" open={open} onOpenChange={onOpenChange}>
      {entries.length === 0 && <p>Nothing has been deleted.</p>}
      <ul className="grid gap-2">
        {entries.map((entry) => (
          <li key={entry.key} className="flex items-center gap-3">
            <span className="min-w-0 flex-1">
              {entry.title} <span className="text-soft">({entry.kind})</span>
            </span>
            <Button onClick={() => restore(entry.key)}>Restore</Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
