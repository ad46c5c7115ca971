import type { Correction, PictureLight } from "../../../api/client";
import type { SheetBody, SheetView } from "../../../api/client";
import { Segmented } from "../../../ui/Segmented";
import { Labelled, NumberField, TextField } from "../../../ui/Field";
import { ev, percent, rounded, signed } from "../../../ui/numbers";
import { CameraButton, PickButton } from "../../outings/DropZone";
import { HandExposure } from "./HandExposure";
import { TakingInBar } from "../../takes/TakingInBar";
import { useAddTakes } from "../takes/useAddTakes";
import type { Edit } from "../useSheetEditor";
import { Explained } from "../../help/Explained";

const STATES = [
  { value: "planned", text: "Planned" },
  { value: "shot", text: "Shot" },
  { value: "kept", text: "Kept" },
] as const;

interface Props {
  sheet: SheetView;
  body: SheetBody;
  light: PictureLight | null;
  corrections: Correction[];
  onFiles: (files: File[]) => void;
  edit: Edit;
}

/** Intent, and what the picture says of how it was taken. */
export function PicturePart({ sheet, body, light, corrections, onFiles, edit }: Props) {
  const { add, state, cancel, dismiss } = useAddTakes(sheet);
  return (
    <div className="grid gap-x-6 gap-y-3 md:grid-cols-2">
      <div className="grid content-start gap-3">
        <TextField
          label="Intent"
          value={body.intent}
          maxLength={1000}
          placeholder="Subject, what must be sharp, light or dark mood"
          onCommit={(intent) => edit("intent", (current) => ({ ...current, intent }))}
        />
        <Labelled label="State">
          {() => (
            <Segmented
              label="Sheet state"
              value={body.state}
              options={STATES}
              onChange={(state) => edit("state", (current) => ({ ...current, state }))}
            />
          )}
        </Labelled>
      </div>
      <div className="content-start">
        {light ? (
          <Facts light={light} filterStops={body.picture_glass_stops} />
        ) : (
          <p className="text-soft">No picture yet.</p>
        )}
        <div className="mt-2 flex flex-wrap items-end gap-3">
          <PickButton text={light ? "Replace picture" : "Choose a picture"} onFiles={onFiles} />
          <CameraButton onFiles={onFiles} />
          <PickButton text="Add takes" onFiles={add} />
          {light && (
            <div className="w-44">
              <NumberField
                label="Filter used"
                unit="stops"
                value={body.picture_glass_stops}
                low={0}
                high={24}
                onCommit={(stops) =>
                  edit("filter on the picture", (b) => ({
                    ...b,
                    picture_glass_stops: stops ?? 0,
                  }))
                }
              />
            </div>
          )}
        </div>
        <TakingInBar state={state} onCancel={cancel} onDismiss={dismiss} />
        {corrections
          .filter((correction) => correction.id === "glass")
          .map((correction) => (
            <p key={correction.id} className="mt-2 border-l-4 border-accent pl-2">
              {correction.words} {correction.doubt && <b>{correction.doubt}</b>}
            </p>
          ))}
        {light && light.missing.length > 0 && (
          <HandExposure body={body} light={light} edit={edit} />
        )}
      </div>
    </div>
  );
}

function Facts({ light, filterStops }: { light: PictureLight; filterStops: number }) {
  const { file, camera, settings, frame, brightness_ev100, notes } = light.report;
  const kind = file.kind === "raw" ? "RAW, measured" : "processed, approximate";
  const exposure = [
    settings.iso && `ISO ${settings.iso}`,
    settings.shutter_s &&
      (settings.shutter_s < 0.3
        ? `1/${Math.round(1 / settings.shutter_s)} s`
        : `${settings.shutter_s} s`),
    settings.f_number && `f/${rounded(settings.f_number, 2)}`,
  ].filter(Boolean);
  const rows: [string, string][] = [
    [
      "File",
      `${file.name}, ${file.format}${file.width && file.height ? ` ${file.width} × ${file.height}` : ""}, ${kind}`,
    ],
    [
      "Taken with",
      [camera.lens ?? camera.model, ...exposure].filter(Boolean).join(" · ") || "not in the file",
    ],
  ];
  const { taken_at, white_balance } = light.report;
  if (taken_at) {
    const balance = white_balance ? `; white balance ${white_balance}` : "";
    rows.push(["When", taken_at.replace("T", " ") + balance]);
  }
  if (light.settings_ev100 !== null)
    rows.push([
      "Exposed for",
      ev(light.settings_ev100) +
        (brightness_ev100 === null
          ? ""
          : `; its meter saw ${ev(brightness_ev100 + filterStops)} (${signed(brightness_ev100 + filterStops - light.settings_ev100)})`),
    ]);
  if (frame)
    rows.push([
      "Frame",
      `mean ${light.mean_ev100 === null ? `${signed(frame.mean_stops)} from mid` : ev(light.mean_ev100)}; ` +
        `${percent(frame.clipped_share)} clipped, ${percent(frame.blocked_share)} blocked`,
    ]);
  return (
    <>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-[0.93rem]">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="min-w-0 break-words">
              <Explained>{value}</Explained>
            </dd>
          </div>
        ))}
      </dl>
      {notes.map((note) => (
        <p key={note} className="mt-1 border-l-4 border-ink pl-2 text-[0.9rem]">
          {note}
        </p>
      ))}
    </>
  );
}
