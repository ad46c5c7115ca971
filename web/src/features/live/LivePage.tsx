import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link } from "wouter";

import type { SheetView, SpotBody } from "../../api/client";
import { isSimulated } from "../../phone/chosen";
import { DeviceControlsLater } from "../../shell/DeviceControlsLater";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { newSpot } from "../sheet/frame/spots";
import { useAsks } from "../sheet/limits/useAsks";
import { sheetQuery } from "../sheet/queries";
import { CurvePart } from "./CurvePart";
import { FilterPart } from "./FilterPart";
import { FocusPart } from "./FocusPart";
import { KnownLightPart } from "./KnownLightPart";
import { LivePicture } from "./LivePicture";
import { LivePatterns } from "./LivePatterns";
import { LiveRail } from "./LiveRail";
import { LiveSlip } from "./LiveSlip";
import { NO_MARKS, type Marks } from "./marks";
import { cameraKey, type KnownLight, seeCamera } from "./queries";
import { ShootPart } from "./ShootPart";
import { useLive } from "./useLive";

const MARKS: readonly { id: keyof Marks; text: string }[] = [
  { id: "lost", text: "Clipping" },
  { id: "detail", text: "Sharp edges" },
  { id: "grid", text: "Grid" },
  { id: "level", text: "Level" },
];

const MIDDLE = { x: 0.5, y: 0.5 };

/** A sheet through the phone's own camera: light, slip and take, live. */
export function LivePage({ id }: { id: number }) {
  const { data: sheet } = useQuery(sheetQuery(id));
  if (!sheet) return null;
  return <LiveOf sheet={sheet} />;
}

function LiveOf({ sheet }: { sheet: SheetView }) {
  const [spots, setSpots] = useState<SpotBody[]>(sheet.body.spots);
  const [chosen, setChosen] = useState<string | null>(null);
  const [marks, setMarks] = useState<Marks>(NO_MARKS);
  const [known, setKnown] = useState<KnownLight | null>(null);
  const [filter, setFilter] = useState({ id: "", stops: 0 });
  const key = useMemo(() => (isSimulated() ? "simulated" : cameraKey()), []);
  const live = useLive({
    sheetId: sheet.id,
    spots,
    known,
    filterStops: filter.stops,
    cameraKey: key,
  });
  const { camera, view, state, trouble } = live;
  const { spot: rules, spot_roles: roles } = useAsks();
  const client = useQueryClient();

  useEffect(() => {
    if (!camera) return;
    const name = camera.note ? "Simulated camera" : browserName();
    void seeCamera(key, name, sheet.body.phone, camera.can)
      .then(() => client.invalidateQueries({ queryKey: ["cameras"] }))
      .catch(() => undefined);
  }, [camera, key, sheet.body.phone, client]);

  const point = (x: number, y: number) => {
    live.touched();
    if (!rules || !camera) return;
    void camera.pointAt(x, y);
    const isFirst = !spots.some((spot) => spot.role === rules.first_role);
    const made = newSpot({ ...sheet.body, spots }, rules, { x, y });
    setSpots([...spots, isFirst ? { ...made, role: rules.first_role } : made]);
    setChosen(made.id);
  };
  const spot = spots.find((each) => each.id === chosen);
  const white = view?.whites.find((each) => each.id === chosen);
  const change = (part: Partial<SpotBody>) =>
    setSpots(spots.map((each) => (each.id === chosen ? { ...each, ...part } : each)));

  return (
    <div className="mx-auto min-h-dvh max-w-[44rem] pb-28" onPointerDown={live.touched}>
      <header className="sticky top-0 z-10 flex flex-wrap items-center gap-2 border-b border-line bg-panel px-3 py-2">
        <Link href={`/sheets/${sheet.id}`} className="flex min-h-11 items-center underline">
          Back
        </Link>
        <h1 className="min-w-0 flex-1 leading-snug font-semibold max-md:order-last max-md:basis-full">
          {sheet.body.title}
        </h1>
        {camera && (
          <span role="status" className="ml-auto flex items-center gap-1.5 font-semibold">
            <span aria-hidden="true" className="size-3 rounded-full bg-accent" />
            {state === "resting" ? "Camera on, slower" : "Camera on"}
          </span>
        )}
        {camera && (
          <Button className="min-h-11" onClick={() => live.stop()}>
            Stop
          </Button>
        )}
        <DeviceControlsLater />
      </header>
      <main className="grid grid-cols-1 gap-3">
        {camera ? (
          <LivePicture
            stream={camera.stream}
            picture={live.picture}
            {...{ view, spots, chosen, marks }}
            onPoint={point}
            onChoose={setChosen}
            onMove={(moved) => setSpots(spots.map((each) => (each.id === moved.id ? moved : each)))}
          />
        ) : (
          <div className="surround grid min-h-64 place-items-center gap-3 p-6 text-center">
            <p>{trouble || "Look through the camera: tap what matters, and the slip is there."}</p>
            <Button look="main" className="min-h-14 text-lg" onClick={() => void live.start()}>
              {state === "starting" ? "Starting…" : "Start camera"}
            </Button>
            <Link href={`/sheets/${sheet.id}`} className="flex min-h-11 items-center underline">
              Add a picture instead
            </Link>
          </div>
        )}
        {camera && (
          <div className="grid grid-cols-1 gap-3 px-3">
            {spot && (
              <div className="flex flex-wrap items-end gap-2 rounded border border-line bg-panel p-2">
                <div className="min-w-36 flex-1">
                  <Select
                    label="Role"
                    value={spot.role}
                    options={roles.map((role) => ({ value: role.id, text: role.name }))}
                    onChange={(role) => change({ role })}
                  />
                </div>
                <Button
                  className="min-h-11"
                  onClick={() => {
                    setSpots(spots.filter((each) => each.id !== chosen));
                    setChosen(null);
                  }}
                >
                  Delete spot
                </Button>
                {white && <p className="w-full">{white.words}</p>}
              </div>
            )}
            <ShootPart {...{ sheet, camera, view, spots }} cameraKey={key}>
              <LiveSlip view={view} />
              {view?.rail && <LiveRail rail={view.rail} />}
              <LivePatterns patterns={view?.patterns ?? []} />
              <FilterPart filter={filter.id} onFilter={(id, stops) => setFilter({ id, stops })} />
              <KnownLightPart {...{ camera, view, known, onKnown: setKnown }} sheetId={sheet.id} />
              <FocusPart camera={camera} cameraKey={key} aim={spot ?? MIDDLE} />
              <CurvePart camera={camera} cameraKey={key} />
              <div role="group" aria-label="Marks" className="flex flex-wrap gap-2">
                {MARKS.map((mark) => (
                  <Button
                    key={mark.id}
                    aria-pressed={marks[mark.id]}
                    className="min-h-11 aria-pressed:border-accent aria-pressed:bg-accent-soft"
                    onClick={() => setMarks({ ...marks, [mark.id]: !marks[mark.id] })}
                  >
                    {mark.text}
                  </Button>
                ))}
                <Button className="min-h-11" onClick={() => point(0.5, 0.5)}>
                  Add spot
                </Button>
              </div>
            </ShootPart>
            {camera.note && <p className="text-soft">{camera.note}</p>}
          </div>
        )}
      </main>
    </div>
  );
}

/** Whose browser it is, as the kit lists it. */
const browserName = () =>
  window.matchMedia("(pointer: coarse)").matches ? "This phone’s browser" : "A computer’s browser";
