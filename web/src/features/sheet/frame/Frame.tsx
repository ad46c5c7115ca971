import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

import type { LightReading, SheetBody, SpotBody } from "../../../api/client";
import { useSay } from "../../../ui/Notices";
import { Preview } from "../../../ui/Preview";
import { ev, percent } from "../../../ui/numbers";
import { useAsks } from "../limits/useAsks";
import { Loupe } from "./Loupe";
import { type LabelSide, labelSides } from "./labelSides";
import { RoleGlyph } from "./RoleGlyph";
import { movedSpot, newSpot, resizedSpot, sizeWithin, withoutSpot, withSpot } from "./spots";
import { useLongPress } from "./useLongPress";
import type { Edit } from "../useSheetEditor";
import type { Size } from "../useSize";

interface Props {
  body: SheetBody;
  readings: LightReading[];
  size: Size;
  /** The room there is for it. */
  room: Size;
  selected: string | null;
  onSelect: (id: string | null) => void;
  edit: Edit;
}

/** The picture with its spots: a click or a long press adds one, dragging or arrow keys move it. */
export function Frame({ body, readings, size, room, selected, onSelect, edit }: Props) {
  const fit = Math.min(room.width / size.width, room.height / size.height);
  const { spot: rules } = useAsks();
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<SpotBody | null>(null);
  const [byFinger, setByFinger] = useState(false);

  const shareOf = (event: PointerEvent | React.MouseEvent) => {
    const rect = box.current?.getBoundingClientRect();
    if (!rect) return { x: 0.5, y: 0.5 };
    const clamp = (value: number) => Math.max(0, Math.min(1, value));
    return {
      x: clamp((event.clientX - rect.left) / rect.width),
      y: clamp((event.clientY - rect.top) / rect.height),
    };
  };
  const addAt = (place: { x: number; y: number }) => {
    if (!rules) return;
    const spot = newSpot(body, rules, place);
    edit("new spot", (current) => ({ ...current, spots: [...current.spots, spot] }));
    onSelect(spot.id);
    say("Spot added. Give it a role to change the slip.", {
      text: "Undo",
      run: () => edit("delete spot", (current) => withoutSpot(current, spot.id)),
    });
  };
  const press = useLongPress(shareOf, addAt);
  const onKey = (event: KeyboardEvent, spot: SpotBody) => {
    const change =
      movedSpot(spot, event.key, event.shiftKey) ?? (rules && resizedSpot(spot, event.key, rules));
    if (change) {
      event.preventDefault();
      edit("move spot", (current) => withSpot(current, change));
    } else if (event.key === "Delete" || event.key === "Backspace") {
      event.preventDefault();
      edit("delete spot", (current) => withoutSpot(current, spot.id));
    }
  };
  const shorter = Math.min(size.width, size.height);
  const drawn = { width: size.width * fit, height: size.height * fit };
  const sides = labelSides(body.spots, drawn);

  return (
    // Without a pointer a spot is added by the button, and moved by the arrow keys.
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-static-element-interactions
    <div
      ref={box}
      className="relative shrink-0 cursor-crosshair touch-pan-y select-none"
      style={drawn}
      // A finger that brushes the picture adds nothing: it must stay.
      onClick={(event) => {
        if (!isByFinger(event)) addAt(shareOf(event));
      }}
      {...press}
    >
      <Preview
        picture={body.picture ?? ""}
        alt={`Picture of ${body.title}`}
        className="absolute inset-0 h-full w-full"
      />
      {body.spots.map((spot) => {
        const shown = drag?.id === spot.id ? drag : spot;
        const reading = readings.find((each) => each.id === spot.id);
        return (
          <SpotMark
            key={spot.id}
            spot={shown}
            reading={reading}
            side={sides[spot.id] ?? "right"}
            radiusShare={(shown.r * shorter) / size.width}
            selected={selected === spot.id}
            onResize={(r, done) => {
              if (done) edit("spot size", (current) => withSpot(current, { ...spot, r }));
              setDrag(done ? null : { ...spot, r });
            }}
            onFocus={() => onSelect(spot.id)}
            onKeyDown={(event) => onKey(event, spot)}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setByFinger(event.pointerType === "touch");
              setDrag(spot);
            }}
            onPointerMove={(event) => {
              if (drag && event.currentTarget.hasPointerCapture(event.pointerId))
                setDrag({ ...drag, ...shareOf(event) });
            }}
            onPointerUp={() => {
              if (drag?.id === spot.id && (drag.x !== spot.x || drag.y !== spot.y))
                edit("move spot", (current) => withSpot(current, drag));
              setDrag(null);
            }}
          />
        );
      })}
      {drag && byFinger && body.picture && (
        <Loupe picture={body.picture} spot={drag} drawn={drawn} radius={drag.r * shorter * fit} />
      )}
    </div>
  );
}

const isByFinger = (event: React.MouseEvent) =>
  (event.nativeEvent as globalThis.PointerEvent).pointerType === "touch";

interface MarkProps {
  spot: SpotBody;
  reading: LightReading | undefined;
  side: LabelSide;
  radiusShare: number;
  selected: boolean;
  onResize: (r: number, done: boolean) => void;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  onPointerDown: (event: PointerEvent) => void;
  onPointerMove: (event: PointerEvent) => void;
  onPointerUp: () => void;
}

const STATE_WORDS = { ok: "", clipped: "at least ", blocked: "at most " } as const;

const SIDE: Record<LabelSide, string> = {
  right: "top-1/2 left-full -translate-y-1/2",
  left: "top-1/2 right-full -translate-y-1/2",
  above: "bottom-full left-1/2 -translate-x-1/2",
  below: "top-full left-1/2 -translate-x-1/2",
};

function SpotMark({
  spot,
  reading,
  side,
  radiusShare,
  selected,
  onResize,
  ...handlers
}: MarkProps) {
  const light =
    reading?.ev100 == null ? "" : STATE_WORDS[reading.state] + ev(reading.ev100).replace("EV ", "");
  const { spot_roles: roles } = useAsks();
  const name =
    spot.name || (roles.find(({ id }) => id === spot.role)?.name ?? spot.role).toLowerCase();
  return (
    // Its keys are among the handlers it is given.
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events
    <div
      role="button"
      tabIndex={0}
      aria-label={`Spot ${name} ${light || "unread,"} EV. Arrow keys move it.`}
      aria-pressed={selected}
      data-spot={spot.id}
      className="absolute grid min-h-8 min-w-8 pointer-coarse:min-h-11 pointer-coarse:min-w-11 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none place-items-center active:cursor-grabbing"
      style={{
        left: `${spot.x * 100}%`,
        top: `${spot.y * 100}%`,
        width: `${radiusShare * 200}%`,
        aspectRatio: "1",
      }}
      onClick={(event) => event.stopPropagation()}
      {...handlers}
    >
      <svg
        viewBox="-12 -12 24 24"
        className="h-full min-h-8 w-full min-w-8 overflow-visible"
        aria-hidden="true"
      >
        <g fill="none" stroke="#000" strokeOpacity={0.55} transform="scale(1.14)" color="#000">
          <RoleGlyph role={spot.role} size={9} />
        </g>
        <g fill="none" stroke="var(--mark)" color="var(--mark)">
          <RoleGlyph role={spot.role} size={9} />
        </g>
        {selected && (
          <circle
            r={14}
            fill="none"
            stroke="var(--mark)"
            strokeWidth={1.5}
            strokeDasharray="3 2.5"
          />
        )}
      </svg>
      <span
        className={`pointer-events-none absolute rounded-xs bg-black/65 px-1.5 py-0.5 text-[0.8rem] whitespace-nowrap ${SIDE[side]}`}
        style={{ color: "var(--mark)" }}
      >
        {name} {light && <b>{light}</b>}
        {selected && <span className="ml-1.5">⌀ {percent(2 * spot.r)}</span>}
      </span>
      {selected && <SizeHandle spot={spot} onResize={onResize} />}
    </div>
  );
}

/** Drawn out from the spot's middle it makes the spot larger, pushed in smaller. */
function SizeHandle({ spot, onResize }: { spot: SpotBody; onResize: MarkProps["onResize"] }) {
  const { spot: rules } = useAsks();
  const grabbed = useRef<{ distance: number; r: number } | null>(null);
  const distance = (event: PointerEvent) => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!box) return 1;
    return Math.hypot(
      event.clientX - box.left - box.width / 2,
      event.clientY - box.top - box.height / 2,
    );
  };
  const radius = (event: PointerEvent) => {
    const start = grabbed.current;
    if (!start || !rules) return spot.r;
    return sizeWithin((start.r * distance(event)) / Math.max(1, start.distance), rules);
  };
  return (
    <span
      title="Drag to change the size"
      className="absolute right-0 bottom-0 grid h-6 w-6 translate-x-1/2 translate-y-1/2 cursor-nwse-resize touch-none place-items-center"
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        grabbed.current = { distance: distance(event), r: spot.r };
      }}
      onPointerMove={(event) => {
        event.stopPropagation();
        if (grabbed.current) onResize(radius(event), false);
      }}
      onPointerUp={(event) => {
        event.stopPropagation();
        if (grabbed.current) onResize(radius(event), true);
        grabbed.current = null;
      }}
    >
      <span className="h-3 w-3 border border-black bg-(--mark)" />
    </span>
  );
}
