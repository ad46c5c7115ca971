import { Link } from "wouter";

import type { Stack } from "../../api/client";
import { ButtonLink } from "../../ui/ButtonLink";
import { Explained } from "../help/Explained";

/** What came of a set, in figures, and what was left out of it. */
export function ResultPart({ set }: { set: Stack }) {
  const { result } = set;
  if (!result || set.state !== "done") return null;
  const [head = "", ...rest] = set.told;
  return (
    <section aria-label="Result" className="rounded border border-line bg-panel p-4">
      <p className="text-lg font-semibold tabular-nums">
        <Explained>{head}</Explained>
      </p>
      {rest.map((line) => (
        <p key={line} className="tabular-nums">
          {line}
        </p>
      ))}
      <p className="text-soft tabular-nums">
        {result.width} × {result.height} pixels. It is{" "}
        {set.sheet_id === null ? (
          <Link href="/takes" className="underline">
            in the inbox
          </Link>
        ) : (
          <Link href={`/sheets/${set.sheet_id}`} className="underline">
            with the sheet’s takes
          </Link>
        )}
        .
      </p>
      <div className="mt-3">
        <ButtonLink href={`/api/stacks/${set.id}/file`} download>
          Save file
        </ButtonLink>
      </div>
      {result.left_out.length > 0 && (
        <>
          <h2 className="mt-4 font-semibold">
            {result.left_out.length === 1
              ? "One frame was left out"
              : `${result.left_out.length} frames were left out`}
          </h2>
          <ul aria-label="Left out" className="mt-1 grid gap-1">
            {result.left_out.map((frame) => (
              <li key={frame.name} className="border-l-4 border-line pl-3">
                <b>{frame.name}</b>: {frame.why}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
