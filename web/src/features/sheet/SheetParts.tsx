import { Tabs } from "radix-ui";
import { type ReactNode, useEffect, useRef } from "react";

import type { SheetView } from "../../api/client";
import type { PictureImport } from "./frame/usePicture";
import { PicturePart } from "./frame/PicturePart";
import { LightPart } from "./light/LightPart";
import { LineSettings } from "./line/LineSettings";
import { EXPOSURE, instrumentNamed } from "./line/instruments";
import type { PartId } from "./line/useChosenLine";
import { TabStrip } from "../../ui/TabStrip";
import { later } from "../../ui/later";
import type { Edit } from "./useSheetEditor";

const WaysPart = later(() => import("./limits/WaysPart").then((all) => all.WaysPart));

const OF_THE_PICTURE = [
  { id: "light", text: "Light" },
  { id: "picture", text: "Picture" },
] as const;
const DRY = { id: "dry", text: "Dry run" } as const;

interface Props {
  sheet: SheetView;
  edit: Edit;
  picture: PictureImport;
  part: PartId;
  onPart: (part: PartId) => void;
  instrument: string;
  field: string;
  /** Whether the picture shows a dry run, which then has a part of its own. */
  dry: boolean;
  dryDetails: ReactNode;
  selected: string | null;
  onSelect: (id: string | null) => void;
}

/** Beneath: what belongs to the picture, and the settings of the chosen line of the slip. */
export function SheetParts(props: Props) {
  const { sheet, edit, picture, part, onPart, instrument, dry, dryDetails } = props;
  const { selected, onSelect } = props;
  const { body, answer } = sheet;
  const light = answer.picture;
  const isExposure = instrument === EXPOSURE;
  const line = answer.lines.find((line) => line.field === props.field);
  const tabs: { id: PartId; text: string }[] = [
    ...OF_THE_PICTURE,
    ...(dry ? [DRY] : []),
    { id: "line", text: isExposure ? "Limits" : instrumentNamed(instrument, line).settings },
    ...(isExposure ? [{ id: "ways" as const, text: "Alternatives" }] : []),
  ];
  const panel = useRef<HTMLDivElement>(null);
  const first = useRef(true);
  useEffect(() => {
    // On a small screen what was opened may be far below.
    if (first.current) first.current = false;
    else panel.current?.scrollIntoView({ block: "nearest" });
  }, [part, props.field]);
  return (
    <Tabs.Root
      ref={panel}
      value={tabs.some((tab) => tab.id === part) ? part : "line"}
      onValueChange={(next) => onPart(next as PartId)}
      className="flex min-h-0 scroll-mb-24 flex-col rounded border border-line bg-panel min-[900px]:col-span-2 min-[900px]:max-h-[19rem]"
    >
      <TabStrip aria-label="Parts of the sheet" tabs={tabs} apart="line" />
      <div className="min-h-0 flex-1 overflow-y-auto p-3">
        <Tabs.Content value="picture">
          <PicturePart
            sheet={sheet}
            body={body}
            light={light}
            corrections={answer.corrections}
            onFiles={picture.take}
            edit={edit}
          />
        </Tabs.Content>
        <Tabs.Content value="light">
          <LightPart
            body={body}
            readings={answer.readings}
            corrections={answer.corrections}
            settings={light?.report.settings ?? null}
            selected={selected}
            onSelect={onSelect}
            edit={edit}
          />
        </Tabs.Content>
        <Tabs.Content value="line">
          <LineSettings {...{ sheet, edit, instrument, selected }} field={props.field} />
        </Tabs.Content>
        <Tabs.Content value="dry">{dryDetails}</Tabs.Content>
        <Tabs.Content value="ways">
          <WaysPart body={body} answer={answer} edit={edit} />
        </Tabs.Content>
      </div>
    </Tabs.Root>
  );
}
