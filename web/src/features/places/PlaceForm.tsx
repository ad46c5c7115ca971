import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { PlaceBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField, Select, TextField } from "../../ui/Field";
import { LowSky } from "./LowSky";
import { LowSkyDrawing } from "./LowSkyDrawing";
import { PlainMap } from "./PlainMap";
import { classesQuery, placesQuery, readPosition } from "./queries";

interface Props {
  body: PlaceBody;
  onChange: (body: PlaceBody) => void;
}

/** Where a place is and how dark its sky: typed, pasted, or set on the map. */
export function PlaceForm({ body, onChange }: Props) {
  const { data: classes = [] } = useQuery(classesQuery);
  const { data: places = [] } = useQuery(placesQuery);
  const [pasted, setPasted] = useState("");
  const put = (part: Partial<PlaceBody>) => onChange({ ...body, ...part });
  const move = (latitude_deg: number, longitude_deg: number) =>
    put({ latitude_deg, longitude_deg, time_zone: null });
  const paste = useMutation({
    mutationFn: () => readPosition(pasted),
    onSuccess: (found) => {
      setPasted("");
      move(found.latitude_deg, found.longitude_deg);
    },
  });
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="grid content-start gap-4">
        <PlainMap
          latitude={body.latitude_deg}
          longitude={body.longitude_deg}
          isKnown={body.time_zone !== null && body.time_zone !== undefined}
          others={places
            .filter((place) => place.body.name !== body.name)
            .map(({ body: { name, latitude_deg, longitude_deg } }) => ({
              name,
              latitude: latitude_deg,
              longitude: longitude_deg,
            }))}
          onPick={move}
        />
        <LowSkyDrawing body={body} onChange={put} />
        <div className="grid items-start gap-4 md:grid-cols-2">
          <LowSky body={body} onChange={put} />
        </div>
      </div>
      <div className="grid content-start gap-2">
        <TextField
          label="Name"
          value={body.name}
          maxLength={120}
          onCommit={(name) => name && put({ name })}
        />
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="North"
            unit="°"
            value={body.latitude_deg}
            low={-90}
            high={90}
            digits={8}
            onCommit={(value) => value !== null && move(value, body.longitude_deg)}
          />
          <NumberField
            label="East"
            unit="°"
            value={body.longitude_deg}
            low={-180}
            high={180}
            digits={8}
            onCommit={(value) => value !== null && move(body.latitude_deg, value)}
          />
        </div>
        <form
          className="grid grid-cols-[1fr_auto] items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            paste.mutate();
          }}
        >
          <label className="text-[0.82rem] text-soft">
            Paste coordinates
            <input
              className="field"
              value={pasted}
              placeholder="e.g. 50° 54' N, 1° 15' W"
              maxLength={200}
              onChange={(event) => setPasted(event.target.value)}
            />
          </label>
          <Button type="submit" disabled={pasted === "" || paste.isPending}>
            Use
          </Button>
        </form>
        {paste.error && <p role="alert">{paste.error.message}</p>}
        <Select
          label="Night sky"
          value={String(body.dark_sky_class)}
          options={classes.map((item) => ({
            value: String(item.number),
            text: `${item.number}: ${item.words}`,
          }))}
          onChange={(value) => put({ dark_sky_class: Number(value), magnitude: null })}
        />
        <NumberField
          label="Measured sky"
          unit="mag/arcsec²"
          value={body.magnitude ?? null}
          low={14}
          high={23}
          onCommit={(magnitude) => put({ magnitude })}
        />
      </div>
    </div>
  );
}
