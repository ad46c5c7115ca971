import { useId, useState } from "react";

import { type PhoneProfile, Refusal } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { keepPhone } from "./queries";

interface Props {
  profile: PhoneProfile;
  onClose: () => void;
  onKept: (id: string) => void;
}

/** A profile as the open JSON it is; its errors are beside it. */
export function ProfileEditor({ profile, onClose, onKept }: Props) {
  const [text, setText] = useState(() => JSON.stringify(profile, null, 2));
  const [problem, setProblem] = useState<string | null>(null);
  const [asksConsent, setAsksConsent] = useState(false);
  const id = useId();
  const keep = () => {
    let parsed: PhoneProfile;
    try {
      parsed = JSON.parse(text) as PhoneProfile;
    } catch (error) {
      setProblem(`Not valid JSON yet: ${error instanceof Error ? error.message : ""}`);
      return;
    }
    keepPhone(parsed, asksConsent).then(
      () => onKept(parsed.id),
      (error: unknown) => {
        setProblem(error instanceof Error ? error.message : String(error));
        setAsksConsent(error instanceof Refusal && error.problem.code === "needs-consent");
      },
    );
  };
  return (
    <Dialog
      wide
      title={`Profile of ${profile.name}`}
      open
      onOpenChange={(open) => !open && onClose()}
    >
      <label htmlFor={id} className="mb-2 block">
        The profile is open JSON (oxlen-phone/2 works too). Change the id and name and enter your
        phone's focal lengths, apertures, pixels, and its shutter and ISO steps.
      </label>
      <textarea
        id={id}
        className="field h-[52dvh] font-mono text-[0.9rem]"
        spellCheck={false}
        value={text}
        aria-invalid={problem !== null}
        onChange={(event) => {
          setText(event.target.value);
          setAsksConsent(false);
        }}
      />
      {problem && (
        <p role="alert" className="mt-2 border-l-4 border-ink bg-raised p-2">
          {problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="main" onClick={keep}>
          {asksConsent ? "Save anyway" : "Save phone"}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
        <label className="ml-auto inline-flex min-h-9 cursor-pointer items-center rounded border border-strong bg-raised px-3 focus-within:outline-3">
          Open JSON file
          <input
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void file.text().then(setText);
            }}
          />
        </label>
      </div>
    </Dialog>
  );
}
