import { type ReactNode, useRef } from "react";

/**
 * The phone's own camera, whose picture comes straight in: `input` is to be drawn somewhere,
 * `take` opens it; undefined where there is no finger to hold a phone with.
 */
export function useCamera(onFiles: (files: File[]) => void): {
  input: ReactNode;
  take: (() => void) | undefined;
} {
  const input = useRef<HTMLInputElement>(null);
  if (!window.matchMedia("(pointer: coarse)").matches) return { input: null, take: undefined };
  return {
    input: (
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        className="hidden"
        aria-label="Take a picture now"
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
    ),
    take: () => input.current?.click(),
  };
}
