import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

import { Button } from "./Button";
import { useBackCloses } from "./useBackCloses";

export interface DialogProps {
  title: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  children: ReactNode;
  /** From the lower edge of the screen, within reach of a thumb. */
  low?: boolean;
  wide?: boolean;
  /** What stays in sight beneath while the rest scrolls. */
  footer?: ReactNode;
}

/** What a dialog is drawn by. */
export function DialogParts({
  title,
  open,
  onOpenChange,
  children,
  low,
  wide,
  footer,
}: DialogProps) {
  const middle =
    "left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 md:max-h-[88dvh] md:rounded-lg";
  const place = low
    ? "inset-x-0 bottom-0 max-h-[92dvh] rounded-t-lg"
    : wide
      ? `${middle} w-[min(100vw,60rem)] max-md:h-dvh max-md:border-0`
      : `${middle} w-[min(94vw,34rem)] max-md:max-h-[88dvh] max-md:rounded-lg`;
  useBackCloses(open, () => onOpenChange(false));
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-black/45" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed z-40 flex flex-col overflow-hidden border border-strong bg-panel ${place}`}
        >
          <div className="flex min-h-0 flex-1 flex-col overflow-y-auto p-4">
            <div className="mb-3 flex items-center justify-between gap-4">
              <Radix.Title className="text-lg font-semibold">{title}</Radix.Title>
              <Radix.Close asChild>
                <Button look="quiet" aria-label="Close">
                  Close
                </Button>
              </Radix.Close>
            </div>
            {children}
          </div>
          {footer && <div className="shrink-0 border-t border-strong px-4 py-2.5">{footer}</div>}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
