import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";

import { formulaQuery, workedQuery } from "../queries";
import { precise } from "../../../ui/numbers";

interface Props {
  /** Id of the computation behind the number, if it has one. */
  computation: string | null;
  inputs: Record<string, unknown>;
  title: string;
  sentence?: string | undefined;
  source?: string | undefined;
  children: ReactNode;
  className?: string;
  /** What can be changed about it, shown under the formula. */
  more?: ReactNode;
}

/** A number that can be opened: what went in, the formula, and where it comes from. */
export function OpenNumber({
  computation,
  inputs,
  title,
  sentence,
  source,
  children,
  className = "",
  more,
}: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`rounded-xs text-left underline decoration-dotted underline-offset-3 hover:bg-sunk ${className}`}
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={10}
          className="z-50 w-[min(24rem,92vw)] rounded border-2 border-strong bg-raised p-3"
        >
          <h3 className="font-semibold">{title}</h3>
          {sentence && <p className="mt-1">{sentence}.</p>}
          {computation ? (
            <Worked id={computation} inputs={inputs} />
          ) : (
            source && <p className="mt-1 text-soft">From: {source}.</p>
          )}
          {more && <div className="mt-3 border-t border-line pt-2">{more}</div>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function Worked({ id, inputs }: { id: string; inputs: Record<string, unknown> }) {
  const { data: formula } = useQuery(formulaQuery(id));
  const complete = formula !== undefined && Object.keys(formula.inputs).every((k) => k in inputs);
  const { data: outputs } = useQuery({ ...workedQuery(id, inputs), enabled: complete });
  if (!formula) return <p className="text-soft">Opening…</p>;
  return (
    <div className="mt-2 grid gap-2">
      <p className="rounded bg-sunk px-2 py-1 font-semibold">{formula.formula}</p>
      <Values title="In" values={inputs} units={formula.inputs} />
      {outputs && <Values title="Out" values={outputs} units={formula.outputs} />}
      <p className="text-[0.88rem] text-soft">Source: {formula.source}.</p>
    </div>
  );
}

function Values(props: {
  title: string;
  values: Record<string, unknown>;
  units: Record<string, string>;
}) {
  return (
    <dl className="grid grid-cols-[2.2rem_auto_1fr] gap-x-2">
      {Object.entries(props.values).map(([name, value], index) => (
        <div key={name} className="contents">
          <span className="text-soft">{index === 0 ? props.title : ""}</span>
          <dt>{name}</dt>
          <dd>
            {typeof value === "number" ? precise(value, 4) : String(value)}{" "}
            <span className="text-soft">{props.units[name]}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}
