import { useQuery } from "@tanstack/react-query";
import { Link, useLocation } from "wouter";

import type { Look } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { usualQuery } from "../queries";
import { AskField } from "./AskField";
import { without, withAt } from "./bodyPath";
import type { EditorProps } from "./LimitBoard";
import { MoverFields } from "./MoverFields";
import { useAsks } from "./useAsks";

/** Motion that is meant to show, and how. */
export function LookEditor({ body, edit }: EditorProps) {
  const { ask } = useAsks();
  const [place] = useLocation();
  const add = () => {
    const entry = ask("looks")?.entry as Look | undefined;
    if (entry) edit("new look", (b) => ({ ...b, looks: [...b.looks, entry], steps_by_hand: null }));
  };
  return (
    <div className="grid gap-3">
      {body.looks.length === 0 && (
        <p className="text-soft">No motion blur wanted. Add water, lamps or a panned background.</p>
      )}
      {body.looks.map((look, at) => (
        <OneLook key={at} look={look} at={at} body={body} edit={edit} />
      ))}
      <div className="flex flex-wrap items-center gap-4">
        <Button onClick={add}>Add motion blur</Button>
        {body.looks.length > 0 && (
          <Link href={`${place}/time`} className="underline underline-offset-4">
            All routes to this time
          </Link>
        )}
      </div>
    </div>
  );
}

function OneLook({
  look,
  at,
  body,
  edit,
}: Pick<EditorProps, "body" | "edit"> & { look: Look; at: number }) {
  const { data } = useQuery(usualQuery);
  const usual = data?.looks.find((item) => item.id === look.look);
  const least = look.share_min ?? usual?.share_min ?? null;
  const most = look.share_max ?? usual?.share_max ?? null;
  const path = ["looks", at] as const;
  const own = { body, edit, does: "look" };
  return (
    <div className="grid gap-2">
      <MoverFields {...own} path={path} />
      <div className="grid grid-cols-[1.6fr_1fr_1fr_auto] items-start gap-2 max-md:grid-cols-2">
        <AskField
          {...own}
          path={[...path, "look"]}
          hint={usual?.words}
          also={(b) =>
            withAt(withAt(b, [...path, "share_min"], null), [...path, "share_max"], null)
          }
        />
        {look.look === "vanish" ? (
          <>
            <AskField {...own} path={[...path, "width_m"]} placeholder="usual" />
            <AskField {...own} path={[...path, "background_stops"]} />
          </>
        ) : (
          <>
            <AskField {...own} path={[...path, "share_min"]} usual={least} high={most} />
            <AskField {...own} path={[...path, "share_max"]} usual={most} low={least} />
          </>
        )}
        <Button
          className="mt-5"
          onClick={() =>
            edit("remove look", (b) => ({ ...without(b, "looks", at), steps_by_hand: null }))
          }
        >
          Remove
        </Button>
      </div>
    </div>
  );
}
