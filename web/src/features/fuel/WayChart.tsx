import { path } from "../../drawing/projection";
import type { FuelUnits } from "./fuelUnits";

type LatLon = readonly number[];
type Props = { line: LatLon[]; ring: number; turn?: number; u: FuelUnits };

const WIDTH = 560;
const HEIGHT = 340;
const RADIUS = 6371008.8; // metres; see core/way

/** The way itself, with how far from its beginning she can go and come home, and where to turn. */
export function WayChart({ line, ring, turn, u }: Props) {
  const [first] = line;
  if (!first || line.length < 2) return null;
  const metres = line.map((p) => plane(first, p));
  const far = Math.max(...metres.map(([x, y]) => Math.hypot(x, y)));
  const rim = ring < 3 * far ? ring : 0; // a ring that is far out would make the way too small
  const xs = [...metres.map(([x]) => x), rim, -rim];
  const ys = [...metres.map(([, y]) => y), rim, -rim];
  const across = Math.max(Math.max(...xs) - Math.min(...xs), 200);
  const up = Math.max(Math.max(...ys) - Math.min(...ys), 200);
  const scale = Math.min((WIDTH - 60) / across, (HEIGHT - 70) / up);
  const middle = [(Math.max(...xs) + Math.min(...xs)) / 2, (Math.max(...ys) + Math.min(...ys)) / 2] as const;
  const at = ([x, y]: readonly [number, number]): [number, number] => [
    WIDTH / 2 + (x - middle[0]) * scale,
    (HEIGHT - 20) / 2 - (y - middle[1]) * scale,
  ];
  const ramp = at([0, 0]);
  const back = turn === undefined ? undefined : along(metres, turn);
  const bar = niceLength(90 / scale / u.waySI);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full border border-(--hair)"
        role="img"
        aria-label={`The way as drawn; out and home again she reaches ${u.far(ring)} from where it begins`}
      >
        <clipPath id="chart">
          <rect width={WIDTH} height={HEIGHT} />
        </clipPath>
        <g clipPath="url(#chart)">
          <circle
            cx={ramp[0]}
            cy={ramp[1]}
            r={ring * scale}
            fill="var(--water)"
            stroke="currentColor"
            strokeDasharray="6 4"
          />
        </g>
        <path d={path(metres.map(at))} fill="none" stroke="currentColor" strokeWidth="2" strokeLinejoin="round" />
        <circle cx={ramp[0]} cy={ramp[1]} r="6" fill="currentColor" />
        {back && (
          <path d={`M${at(back)[0] - 7} ${at(back)[1]}h14m-7 -7v14`} stroke="var(--color-accent)" strokeWidth="3" />
        )}
        <path d={`M20 ${HEIGHT - 18}v6h${bar * u.waySI * scale}v-6`} fill="none" stroke="currentColor" />
        <text x={28 + bar * u.waySI * scale} y={HEIGHT - 10} fontSize="14" className="figure-type" fill="currentColor">
          {bar} {u.way}
        </text>
        <path d={`M${WIDTH - 24} 44v-26m-5 8l5 -8l5 8`} fill="none" stroke="currentColor" strokeWidth="1.4" />
        <text x={WIDTH - 24} y="58" fontSize="13" textAnchor="middle" className="label-type" fill="currentColor">
          N
        </text>
      </svg>
      <figcaption className="quiet text-sm">
        The ring is how far she can go and come home in calm water, filled and with the reserve kept; the cross is where
        to turn. This is no chart to steer by.
      </figcaption>
    </figure>
  );
}

/** Metres east and north of a point, on a plane that is right for a day's way. */
function plane(from: LatLon, p: LatLon): [number, number] {
  const rad = Math.PI / 180;
  const [lat0 = 0, lon0 = 0] = from;
  const [lat = 0, lon = 0] = p;
  const dlon = ((lon - lon0 + 540) % 360) - 180;
  return [RADIUS * rad * dlon * Math.cos(((lat + lat0) / 2) * rad), RADIUS * rad * (lat - lat0)];
}

/** The point so many metres along a line, or none where it is shorter. */
function along(line: [number, number][], metres: number): [number, number] | undefined {
  let left = metres;
  for (let i = 1; i < line.length; i++) {
    const [ax, ay] = line[i - 1] ?? [0, 0];
    const [bx, by] = line[i] ?? [0, 0];
    const step = Math.hypot(bx - ax, by - ay);
    if (step >= left && step > 0) return [ax + ((bx - ax) * left) / step, ay + ((by - ay) * left) / step];
    left -= step;
  }
  return undefined;
}

function niceLength(about: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(about, 0.01)));
  return [5, 2, 1].map((n) => n * power).find((n) => n <= about) ?? power;
}
