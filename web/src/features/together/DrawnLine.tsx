export type Place = [number, number];

interface Props {
  picture: string;
  line: Place[];
  onPlace: (place: Place) => void;
}

/** The line over a frame; each click adds a place to it. */
export function DrawnLine({ picture, line, onPlace }: Props) {
  const first = line[0];
  const last = line.at(-1);
  const through = first && last ? [[0, first[1]] as Place, ...line, [1, last[1]] as Place] : [];
  return (
    <div className="surround relative mt-2 rounded">
      <img src={picture} alt="The frame, for its horizon" className="block w-full" />
      <svg
        viewBox="0 0 1000 1000"
        preserveAspectRatio="none"
        className="absolute inset-0 h-full w-full cursor-crosshair"
        role="img"
        aria-label="The horizon drawn so far"
        onPointerUp={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          onPlace([
            share((event.clientX - box.left) / box.width),
            share((event.clientY - box.top) / box.height),
          ]);
        }}
      >
        <polyline
          points={through.map(([x, y]) => `${1000 * x},${1000 * y}`).join(" ")}
          fill="none"
          stroke="white"
          strokeWidth="3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </div>
  );
}

const share = (value: number) => Number(Math.max(0, Math.min(1, value)).toFixed(4));
