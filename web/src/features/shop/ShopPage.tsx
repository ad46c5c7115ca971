import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { Link, useLocation, useSearch } from "wouter";

import { TabStrip } from "../../ui/TabStrip";
import { sheetQuery } from "../sheet/queries";
import { CheckPart } from "./CheckPart";
import { HandOverPart } from "./HandOverPart";
import { ListPart, NewList } from "./ListPart";
import { SetUpPart } from "./SetUpPart";
import { ShootPart } from "./ShootPart";
import { useShop } from "./useShop";

const TABS = [
  { id: "list", text: "List" },
  { id: "set-up", text: "Set up" },
  { id: "shoot", text: "Shoot" },
  { id: "check", text: "Check" },
  { id: "hand-over", text: "Hand over" },
] as const;

/** A sheet as a shop series: its things, the set-up, the shooting, the check, the hand-over. */
export function ShopPage({ id }: { id: number }) {
  const { shop, error, run, again } = useShop(id);
  const { data: sheet } = useQuery(sheetQuery(id));
  const client = useQueryClient();
  const [, go] = useLocation();
  const asked = new URLSearchParams(useSearch()).get("part");
  if (error) return <p className="p-6">{error.message}</p>;
  if (shop === undefined || !sheet) return <p className="p-6">Opening…</p>;
  const part = TABS.find((tab) => tab.id === asked)?.id ?? "list";
  const refresh = () =>
    Promise.all([again(), client.invalidateQueries({ queryKey: ["takes", "of", id] })]);
  const props = { sheet: id, run, again: refresh };
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href={`/sheets/${id}`} className="mt-2 inline-flex min-h-11 items-center underline">
        Back to the sheet
      </Link>
      <h1 className="pt-1 text-2xl font-semibold">{sheet.body.title}</h1>
      {shop === null || shop.things.length === 0 ? (
        <NewList {...props} />
      ) : (
        <>
          <p className="pb-2 text-soft">Shop series. {stateWords(shop)}</p>
          <Tabs.Root
            value={part}
            onValueChange={(next) => go(`/sheets/${id}/shop?part=${next}`, { replace: true })}
          >
            <TabStrip aria-label="Shop series" tabs={TABS} />
            <Tabs.Content value="list" className="pt-4">
              <ListPart shop={shop} {...props} />
            </Tabs.Content>
            <Tabs.Content value="set-up" className="pt-4">
              <SetUpPart shop={shop} {...props} />
            </Tabs.Content>
            <Tabs.Content value="shoot" className="pt-4">
              <ShootPart shop={shop} {...props} />
            </Tabs.Content>
            <Tabs.Content value="check" className="pt-4">
              <CheckPart shop={shop} {...props} />
            </Tabs.Content>
            <Tabs.Content value="hand-over" className="pt-4">
              <HandOverPart shop={shop} {...props} />
            </Tabs.Content>
          </Tabs.Root>
        </>
      )}
    </main>
  );
}

function stateWords({
  counts,
}: {
  counts: NonNullable<ReturnType<typeof useShop>["shop"]>["counts"];
}) {
  const { wanted, shot, to_check, match, reshoot } = counts;
  const found =
    shot === 0 || to_check > 0
      ? to_check > 0 && `${to_check} to check.`
      : reshoot + match === 0
        ? "All match."
        : [reshoot > 0 && `${reshoot} to reshoot`, match > 0 && `${match} to match`]
            .filter(Boolean)
            .join(", ") + ".";
  return [`${shot} of ${wanted} shot.`, found].filter(Boolean).join(" ");
}
