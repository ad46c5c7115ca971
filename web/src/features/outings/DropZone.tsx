import { type ReactNode, useEffect, useRef, useState } from "react";

import { Button } from "../../ui/Button";
import { useCamera } from "./useCamera";

export const ACCEPT =
  "image/*,.dng,.heic,.heif,.tif,.tiff,.nef,.cr2,.cr3,.arw,.raf,.orf,.rw2,.pef,.srw";

interface Props {
  onFiles: (files: File[]) => void;
  children: ReactNode;
  className?: string;
  /** Pictures pasted anywhere on the page come here. */
  paste?: boolean;
}

/** A place that takes dropped and pasted pictures. */
export function DropZone({ onFiles, children, className = "", paste }: Props) {
  const [over, setOver] = useState(false);
  const latest = useRef(onFiles);
  useEffect(() => {
    latest.current = onFiles;
  });
  useEffect(() => {
    if (!paste) return undefined;
    const onPaste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (files.length > 0) latest.current(files);
    };
    // Dropped beside every target it still comes in, instead of opening in place of the page.
    const onOver = (event: DragEvent) => event.preventDefault();
    const onMissed = (event: DragEvent) => {
      if (event.defaultPrevented) return;
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length > 0) latest.current(files);
    };
    window.addEventListener("paste", onPaste);
    window.addEventListener("dragover", onOver);
    window.addEventListener("drop", onMissed);
    return () => {
      window.removeEventListener("paste", onPaste);
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("drop", onMissed);
    };
  }, [paste]);
  return (
    // Whatever is dropped here can be chosen with a button too.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions
    <div
      className={`relative ${className}`}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes("Files")) {
          event.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        event.preventDefault();
        event.stopPropagation();
        setOver(false);
        const files = [...event.dataTransfer.files];
        if (files.length > 0) onFiles(files);
      }}
    >
      {children}
      {over && (
        <div className="pointer-events-none absolute inset-0 z-20 grid place-items-center border-4 border-dashed border-accent bg-accent-soft/80 text-lg font-semibold">
          Drop to import
        </div>
      )}
    </div>
  );
}

/** A button that opens the file picker. */
export function PickButton({
  onFiles,
  text,
  look = "plain",
  multiple = true,
}: {
  onFiles: (files: File[]) => void;
  text: string;
  look?: "plain" | "main" | "quiet";
  multiple?: boolean;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={ACCEPT}
        multiple={multiple}
        className="hidden"
        aria-label={text}
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
      <Button look={look} onClick={() => input.current?.click()}>
        {text}
      </Button>
    </>
  );
}

/** On a phone: its own camera, on auto, and the picture straight in. */
export function CameraButton({ onFiles }: { onFiles: (files: File[]) => void }) {
  const { input, take } = useCamera(onFiles);
  if (!take) return null;
  return (
    <>
      {input}
      <Button onClick={take} className="text-ink">
        Use camera
      </Button>
    </>
  );
}
