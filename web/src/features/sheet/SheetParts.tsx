import { Tabs } from "radix-ui";
import type { ReactNode } from "react";

import type { SheetView } from "../../api/client";
import type { PictureImport } from "./frame/usePicture";
import { PicturePart } from "./frame/PicturePart";
import { LightPart } from "./light/LightPart";
import { LensPart } from "./limits/LensPart";
import { LimitBoard } from "./limits/LimitBoard";
import { WaysPart } from "./limits/WaysPart";
import type { Edit } from "./useSheetEditor";

const PARTS = [
  { id: "picture", text: "Picture" },
  { id: "light", text: "Light" },
  { id: "time", text: "Limits" },
  { id: "lenses", text: "Lenses" },
  { id: "ways", text: "Other ways" },
] as const;
const DRY_PART = { id: "dry", text: "Dry run" } as const;
/** A tab and its panel carry the same id. */
export type PartId = (typeof PARTS)[number]["id"] | (typeof DRY_PART)["id"];

interface Props {
  sheet: SheetView;
  edit: Edit;
  picture: PictureImport;
  part: PartId;
  onPart: (part: PartId) => void;
  /** Whether the picture shows a dry run, which then has a part of its own. */
  dry: boolean;
  dryDetails: ReactNode;
  selected: string | null;
  onSelect: (id: string | null) => void;
}

/** The parts of the sheet below picture and map. */
export function SheetParts(props: Props) {
  const { sheet, edit, picture, part, onPart, dry, dryDetails, selected, onSelect } = props;
  const { body, answer } = sheet;
  const light = answer.picture;
  return (
    <Tabs.Root
      value={part}
      onValueChange={(next) => onPart(next as PartId)}
      className="flex min-h-0 flex-col rounded border border-line bg-panel min-[900px]:col-span-2 min-[900px]:max-h-[19rem]"
    >
      <Tabs.List
        aria-label="Parts of the sheet"
        className="flex overflow-x-auto border-b border-line px-2"
      >
        {(dry ? [...PARTS, DRY_PART] : PARTS).map((each) => (
          <Tabs.Trigger
            key={each.id}
            value={each.id}
            className="min-h-9 border-b-3 border-transparent px-4 whitespace-nowrap max-[899px]:min-h-11 max-[899px]:px-2.5 data-[state=active]:border-accent data-[state=active]:font-semibold"
          >
            {each.text}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <div className="min-h-0 flex-1 overflow-y-auto p-3">
        <Tabs.Content value="picture">
          <PicturePart
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
        <Tabs.Content value="time">
          <LimitBoard body={body} answer={answer} edit={edit} />
        </Tabs.Content>
        <Tabs.Content value="lenses">
          <LensPart body={body} answer={answer} edit={edit} />
        </Tabs.Content>
        <Tabs.Content value="dry">{dryDetails}</Tabs.Content>
        <Tabs.Content value="ways">
          <WaysPart body={body} answer={answer} edit={edit} />
        </Tabs.Content>
      </div>
    </Tabs.Root>
  );
}
