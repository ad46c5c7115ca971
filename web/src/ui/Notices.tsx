import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";

import { Button } from "./Button";

interface Notice {
  id: number;
  text: string;
  action?: { text: string; run: () => void } | undefined;
}

type Say = (text: string, action?: Notice["action"]) => void;
const SayContext = createContext<Say>(() => undefined);

/** Say something in passing, with a way to take it back if there is one. */
export function useSay(): Say {
  return useContext(SayContext);
}

/** Where notices appear: over the lower edge, until read. */
export function Notices({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<Notice[]>([]);
  const drop = useCallback((id: number) => setNotices((all) => all.filter((n) => n.id !== id)), []);
  const say = useCallback<Say>(
    (text, action) => {
      const id = Date.now() + Math.random();
      setNotices((all) => [...all.slice(-2), { id, text, action }]);
      window.setTimeout(() => drop(id), 9000);
    },
    [drop],
  );
  const list = useMemo(
    () =>
      notices.map((notice) => (
        <div
          key={notice.id}
          className="flex items-center gap-3 rounded border-2 border-ink bg-raised px-4 py-2 shadow"
        >
          <span className="max-w-[44ch]">{notice.text}</span>
          {notice.action && (
            <Button
              onClick={() => {
                notice.action?.run();
                drop(notice.id);
              }}
            >
              {notice.action.text}
            </Button>
          )}
          <Button look="quiet" aria-label="Dismiss" onClick={() => drop(notice.id)}>
            ×
          </Button>
        </div>
      )),
    [notices, drop],
  );
  return (
    <SayContext value={say}>
      {children}
      <div
        role="status"
        className="no-print fixed bottom-4 left-1/2 z-50 flex w-max max-w-[94vw] -translate-x-1/2 flex-col gap-2"
      >
        {list}
      </div>
    </SayContext>
  );
}
