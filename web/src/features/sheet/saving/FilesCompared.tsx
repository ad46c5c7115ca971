import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { FileSeen, SheetBody } from "../../../api/client";
import { Select } from "../../../ui/Field";
import { Segmented } from "../../../ui/Segmented";
import { comparedQuery } from "../queries";
import { fixed, rounded } from "../../../ui/numbers";

const LIFTS = [0, 1, 2, 3, 4];

interface Props {
  sheetId: number;
  body: SheetBody;
}

/** The same view in every file the lens can write, shadows lifted alike. */
export function FilesCompared({ sheetId, body }: Props) {
  const dark = body.spots.find((spot) => spot.role === "keep-dark") ?? body.spots[0];
  const [spotId, setSpotId] = useState(dark?.id ?? "");
  const [lift, setLift] = useState(2);
  const spot = body.spots.find((spot) => spot.id === spotId) ?? { x: 0.5, y: 0.5 };
  const place = new URLSearchParams({
    x: String(rounded(spot.x, 4)),
    y: String(rounded(spot.y, 4)),
    lift_stops: String(lift),
  });
  const { data, error } = useQuery({
    ...comparedQuery(sheetId, JSON.stringify(body), place.toString()),
    placeholderData: keepPreviousData,
  });
  return (
    <div className="grid gap-2">
      <div className="grid grid-cols-[1fr_1.3fr] items-end gap-2 max-md:grid-cols-1">
        <Select
          label="Look at"
          value={spotId}
          options={[
            ...body.spots.map((spot) => ({ value: spot.id, text: spot.name })),
            { value: "", text: "the middle" },
          ]}
          onChange={setSpotId}
        />
        <div>
          <p className="mb-0.5 text-[0.82rem] text-soft">Shadows lifted, stops</p>
          <Segmented
            small
            label="Shadows lifted, stops"
            value={String(lift)}
            options={LIFTS.map((stops) => ({
              value: String(stops),
              text: stops ? `+${stops}` : "0",
            }))}
            onChange={(next) => setLift(Number(next))}
          />
        </div>
      </div>
      {error && <p role="status">{error.message}</p>}
      {!error && !data && <p role="status">Making each file…</p>}
      {data && (
        <>
          <ul className="grid grid-cols-3 gap-2 max-md:grid-cols-2">
            {data.files.map((file) => (
              <FileView key={`${file.mode}-${file.name}`} file={file} output={data.output_px} />
            ))}
          </ul>
          <p className="text-[0.86rem] leading-snug text-soft">
            {data.label}, each shown {data.output_px} px wide
            {data.from_scene ? "" : ", from your picture including its noise"}.
          </p>
        </>
      )}
    </div>
  );
}

function FileView({ file, output }: { file: FileSeen; output: number }) {
  const times = file.detail_px / output;
  const detail = times > 1 ? `${fixed(times, 1)} × the pixels shown` : "fewer pixels than shown";
  return (
    <li className={`rounded border p-1 ${file.chosen ? "border-2 border-accent" : "border-line"}`}>
      <img
        src={file.image}
        alt={`${file.name}, ${file.mode_name}`}
        className="block w-full rounded-sm"
        style={{ filter: "var(--picture-filter)" }}
      />
      <p className="flex flex-wrap items-baseline justify-between gap-x-2 px-0.5 leading-tight">
        <b>{file.name}</b>
        <span className="text-[0.82rem] text-soft">{file.mode_name.split(",")[0]}</span>
      </p>
      <p className="px-0.5 text-[0.82rem] leading-tight">
        SNR {file.snr_dark !== null && `dark ${Math.round(file.snr_dark)}, `}
        subject {Math.round(file.snr_subject)}
        <span className="block text-soft">{detail}</span>
      </p>
    </li>
  );
}
