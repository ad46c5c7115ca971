import { Tabs } from "radix-ui";

interface Props {
  "aria-label": string;
  tabs: readonly { id: string; text: string }[];
  /** The tab that is at the far end, away from the others. */
  apart?: string;
}

/** The row of tabs over a panel, inside `Tabs.Root`; it scrolls sideways where it is too long. */
export function TabStrip({ tabs, apart, ...props }: Props) {
  return (
    <Tabs.List
      aria-label={props["aria-label"]}
      className="flex shrink-0 overflow-x-auto border-b border-line px-1.5"
    >
      {tabs.map((tab) => (
        <Tabs.Trigger
          key={tab.id}
          value={tab.id}
          className={`min-h-9 border-b-3 border-transparent px-3 whitespace-nowrap hover:bg-sunk max-[899px]:min-h-11 max-[899px]:px-2.5 data-[state=active]:border-accent data-[state=active]:font-semibold ${tab.id === apart ? "ml-auto" : ""}`}
        >
          {tab.text}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
