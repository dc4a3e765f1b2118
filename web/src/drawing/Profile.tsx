import type { Attitude, Bench } from "../api/client";
import type { Units } from "../domain/units";
import { type Pixel, type Projection, path } from "./projection";

type Props = { bench: Bench; attitude: Attitude | undefined; p: Projection; units: Units };

/** Where the water's surface is along the centreline, height over the keel. */
export function waterAt(a: Attitude, x: number, y: number): number {
  return (a.level_m - a.up[0] * x - a.up[1] * y) / a.up[2];
}

/** A place in outline, from its upper left corner on the sheet to its lower right. */
export function Outline({ a, b }: { a: Pixel; b: Pixel }) {
  return (
    <rect
      x={a[0]}
      y={a[1]}
      width={b[0] - a[0]}
      height={b[1] - a[1]}
      fill="none"
      stroke="var(--quiet)"
      strokeWidth="0.8"
    />
  );
}

/** The water as a quiet slab whose top is the computed surface; it settles when the load changes. */
export function Water({ from, to, clip }: { from: Pixel; to: Pixel; clip: string }) {
  const angle = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  const middle: Pixel = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  return (
    <g clipPath={`url(#${clip})`}>
      <g className="settles" style={{ transform: `translate(${middle[0]}px, ${middle[1]}px) rotate(${angle}deg)` }}>
        <rect x={-2000} y={0} width={4000} height={2000} fill="var(--water)" />
        <line x1={-2000} x2={2000} y1={0} y2={0} stroke="currentColor" strokeWidth="1" />
      </g>
    </g>
  );
}

export function Profile({ bench, attitude, p, units }: Props) {
  const { lines } = bench;
  const at = (points: readonly (readonly number[])[]) => points.map(([x = 0, z = 0]) => p.profile(x, z));
  const keel = at(lines.keel_xz_m);
  const sheer = at(lines.profile_sheer_xz_m);
  const outline = path([...keel, ...[...sheer].reverse()], true);
  const [left] = p.profile(-0.5, 0);
  const last = lines.profile_sheer_xz_m.at(-1)?.[0] ?? 0;
  const [right] = p.profile(last + 0.3, 0);
  return (
    <g aria-hidden="true">
      <clipPath id="profile-clip">
        <rect x={left} y={p.profileTop - 8} width={right - left} height={p.profileBottom - p.profileTop + 8} />
      </clipPath>
      {attitude && (
        <Water
          from={p.profile(-0.5, waterAt(attitude, -0.5, 0))}
          to={p.profile(last + 0.3, waterAt(attitude, last + 0.3, 0))}
          clip="profile-clip"
        />
      )}
      <path d={outline} fill="var(--color-base-100)" fillOpacity="0.55" stroke="currentColor" strokeWidth="1.8" />
      {lines.profile_chines_xz_m.map((chine) => (
        <path
          key={chine[0]?.join()}
          d={path(at(chine))}
          fill="none"
          stroke="currentColor"
          strokeWidth="0.8"
          strokeDasharray="6 4"
        />
      ))}
      {bench.places.map((place) => {
        const [x, , z] = place.corner_m;
        const [length, , height] = place.size_m;
        return <Outline key={place.id} a={p.profile(x, z + height)} b={p.profile(x + length, z)} />;
      })}
      <PeopleInProfile bench={bench} p={p} />
      {attitude && <CentreOfGravity bench={bench} attitude={attitude} p={p} units={units} />}
    </g>
  );
}

function PeopleInProfile({ bench, p }: { bench: Bench; p: Projection }) {
  return bench.state.people.map((person) => {
    const post = bench.posts.find((q) => q.id === person.post_id);
    const member = bench.members.find((m) => m.id === person.member_id);
    if (!post || !member || !person.cg_m) return null;
    const foot = p.profile(post.at_m[0], post.at_m[2]);
    const middle = p.profile(person.cg_m[0], person.cg_m[2]);
    return (
      <g key={person.member_id}>
        <line x1={foot[0]} y1={foot[1]} x2={middle[0]} y2={middle[1]} stroke="currentColor" strokeWidth="1.1" />
        <circle cx={middle[0]} cy={middle[1]} r="9" fill="currentColor" />
        <text
          x={middle[0]}
          y={middle[1] + 4}
          textAnchor="middle"
          className="label-type"
          fontSize="12"
          fill="var(--color-base-100)"
        >
          {member.mark}
        </text>
      </g>
    );
  });
}

function CentreOfGravity({ bench, attitude, p, units }: Props & { attitude: Attitude }) {
  const [x, y] = p.profile(attitude.cg_m[0], attitude.cg_m[2]);
  return (
    <g className="settles" style={{ transform: `translate(${x}px, ${y}px)` }}>
      <circle r="6" fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.4" />
      <path d="M-9 0H9M0 -9V9" stroke="currentColor" strokeWidth="1.1" />
      <text
        x="12"
        y="-7"
        className="label-type"
        fontSize="13"
        fill="currentColor"
        stroke="var(--color-base-100)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {`G ${units.mass(bench.state.now.displacement_kg)} ${units.massUnit}`}
      </text>
    </g>
  );
}
