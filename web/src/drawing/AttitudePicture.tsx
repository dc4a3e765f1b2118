import type { Attitude, Bench } from "../api/client";
import { type Pixel, path } from "./projection";

type Lines = Bench["lines"];
type Person = { mark: string; cg_m: readonly number[] };
type Props = { lines: Lines; attitude: Attitude; people?: Person[]; label: string };

const WIDTH = 350;
const HEIGHT = 156;
const PROFILE_SHARE = 0.64;

/** The boat as she would lie: profile and section turned against level water. */
export function AttitudePicture({ lines, attitude, people = [], label }: Props) {
  const last = lines.profile_sheer_xz_m.at(-1)?.[0] ?? 5;
  const first = Math.min(lines.profile_sheer_xz_m[0]?.[0] ?? 0, 0);
  const half = Math.max(...lines.plan_sheer_xy_m.map((q) => q[1]));
  const scale = Math.min((WIDTH * PROFILE_SHARE - 16) / (last - first), 52);
  const small = Math.min((WIDTH * (1 - PROFILE_SHARE) - 12) / (2 * half * 1.12), 52);
  const { up, level_m: level } = attitude;
  const over = (x: number, y: number, z: number) => up[0] * x + up[1] * y + up[2] * z - level;
  const water = HEIGHT * 0.66;
  const middle = (first + last) / 2;
  const trim = Math.hypot(up[0], up[2]) || 1;
  const heel = Math.hypot(up[1], up[2]) || 1;
  const lean = up[2] / trim;
  const profile = (x: number, z: number, y = 0): Pixel => [
    8 + (WIDTH * PROFILE_SHARE - 16) / 2 + (((x - middle) * up[2] - z * up[0]) / trim) * scale,
    water - over(x, y, z) * scale,
  ];
  const cut = lines.sections.reduce((best, s) =>
    Math.abs(s.x_m - attitude.lowest.at_m[0]) < Math.abs(best.x_m - attitude.lowest.at_m[0]) ? s : best,
  );
  const section = (y: number, z: number): Pixel => [
    WIDTH * (PROFILE_SHARE + (1 - PROFILE_SHARE) / 2) - ((y * up[2] - z * up[1]) / heel) * small,
    water - over(cut.x_m, y, z) * small,
  ];
  const keel = lines.keel_xz_m.map(([x, z]) => profile(x, z));
  const sheer = lines.profile_sheer_xz_m.map(([x, z]) => profile(x, z));
  const ring = [
    ...cut.half_yz_m.map(([y, z]) => section(y, z)).reverse(),
    ...cut.half_yz_m.map(([y, z]) => section(-y, z)),
  ];
  const lowest = attitude.lowest;
  const [lx, ly, lz] = lowest.at_m;
  const mark = section(ly, lz);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-auto w-full bg-base-100"
      role="img"
      aria-label={label}
      data-lean={lean.toFixed(2)}
    >
      <rect x="0" y={water} width={WIDTH} height={HEIGHT - water} fill="var(--water)" />
      <g fill="var(--color-base-100)" fillOpacity="0.5" stroke="currentColor" strokeWidth="1.6" strokeLinejoin="round">
        <path d={path([...keel, ...[...sheer].reverse()], true)} />
        <path d={path(ring)} />
      </g>
      <path d={`M0 ${water}H${WIDTH}`} stroke="currentColor" strokeWidth="1" />
      <path d={`M${WIDTH * PROFILE_SHARE} 6V${HEIGHT - 6}`} stroke="var(--hair)" strokeDasharray="2 4" />
      {people.map((q, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: stand-ins may share a mark
        <g key={`${q.mark}${i}`}>
          {[profile(q.cg_m[0] ?? 0, q.cg_m[2] ?? 0, q.cg_m[1] ?? 0), section(q.cg_m[1] ?? 0, q.cg_m[2] ?? 0)].map(
            ([x, y], k) => (
              <g key={k === 0 ? "profile" : "section"} transform={`translate(${x} ${y})`}>
                <circle r="8" fill="currentColor" />
                <text y="4" textAnchor="middle" fontSize="11" className="label-type" fill="var(--color-base-100)">
                  {q.mark}
                </text>
              </g>
            ),
          )}
        </g>
      ))}
      <g stroke={lowest.m <= 0 ? "var(--color-accent)" : "currentColor"} strokeWidth="2.4">
        <path d={path([mark, [mark[0], water]])} />
        <path d={path([profile(lx, lz, ly), [profile(lx, lz, ly)[0], water]])} />
      </g>
    </svg>
  );
}
