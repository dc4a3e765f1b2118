import type { Bench, Schemas } from "../api/client";
import { type Pixel, path } from "./projection";

type Vec = readonly number[];
type Props = { lines: Bench["lines"]; over: Schemas["OverView"]; label: string };

const WIDTH = 350;
const HEIGHT = 170;
const SHARE = 0.62; // of the width, for the view from the side

const dot = (a: Vec, b: Vec) => (a[0] ?? 0) * (b[0] ?? 0) + (a[1] ?? 0) * (b[1] ?? 0) + (a[2] ?? 0) * (b[2] ?? 0);
/** What of a is left without k times b. */
const less = (a: Vec, k: number, b: Vec): Vec => [0, 1, 2].map((i) => (a[i] ?? 0) - k * (b[i] ?? 0));
const unit = (a: Vec): Vec => a.map((v) => v / (Math.hypot(...a) || 1));

/** A boat that has turned over or stands on end, from the side and from astern, in level water. */
export function OverPicture({ lines, over, label }: Props) {
  const { up, level_m } = over;
  // The level direction nearest to her bow; where she stands on end, to her keel.
  const flat = less([1, 0, 0], up[0] ?? 0, up);
  const ahead = unit(Math.hypot(...flat) > 0.05 ? flat : less([0, 0, -1], -(up[2] ?? 0), up));
  const port: Vec = [
    (up[1] ?? 0) * (ahead[2] ?? 0) - (up[2] ?? 0) * (ahead[1] ?? 0),
    (up[2] ?? 0) * (ahead[0] ?? 0) - (up[0] ?? 0) * (ahead[2] ?? 0),
    (up[0] ?? 0) * (ahead[1] ?? 0) - (up[1] ?? 0) * (ahead[0] ?? 0),
  ];
  const rings = lines.sections.map((s) => [
    ...s.half_yz_m.map(([y = 0, z = 0]) => [s.x_m, y, z]).reverse(),
    ...s.half_yz_m.map(([y = 0, z = 0]) => [s.x_m, -y, z]),
  ]);
  const keel: Vec[] = lines.keel_xz_m.map(([x = 0, z = 0]) => [x, 0, z]);
  const sheers = [0, -1].map((end) => rings.map((r) => r.at(end) ?? [0, 0, 0]));
  const all = [...rings.flat(), ...keel];
  const spread = (axis: Vec) => {
    const at = all.map((q) => dot(q, axis));
    return [Math.min(...at), Math.max(...at)] as const;
  };
  const [low, high] = spread(up);
  const [aft, fore] = spread(ahead);
  const [right, left] = spread(port);
  const water = HEIGHT * 0.55;
  const scale = Math.min(
    52,
    (WIDTH * SHARE - 20) / (fore - aft),
    (WIDTH * (1 - SHARE) - 20) / (left - right),
    (water - 8) / Math.max(high - level_m, 0.1),
    (HEIGHT - water - 8) / Math.max(level_m - low, 0.1),
  );
  const height = (q: Vec) => water - (dot(q, up) - level_m) * scale;
  const side = (q: Vec): Pixel => [(WIDTH * SHARE) / 2 + (dot(q, ahead) - (aft + fore) / 2) * scale, height(q)];
  const astern = (q: Vec): Pixel => [
    WIDTH * (SHARE + (1 - SHARE) / 2) - (dot(q, port) - (left + right) / 2) * scale,
    height(q),
  ];
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block h-auto w-full max-w-xl" role="img" aria-label={label}>
      <rect x="0" y={water} width={WIDTH} height={HEIGHT - water} fill="var(--water)" />
      <g fill="var(--color-base-100)" fillOpacity="0.5" stroke="currentColor" strokeWidth="1.6" strokeLinejoin="round">
        {sheers.map((sheer, i) => (
          <path key={i === 0 ? "port" : "starboard"} d={path([...keel, ...[...sheer].reverse()].map(side), true)} />
        ))}
        {rings.map((r) => (
          <path key={String(r[0]?.[0])} d={path(r.map(astern))} strokeWidth="1" />
        ))}
      </g>
      <path d={`M0 ${water}H${WIDTH}`} stroke="currentColor" strokeWidth="1" />
      <path d={`M${WIDTH * SHARE} 6V${HEIGHT - 6}`} stroke="var(--hair)" strokeDasharray="2 4" />
    </svg>
  );
}
