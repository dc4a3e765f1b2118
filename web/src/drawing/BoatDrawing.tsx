import { memo, type ReactNode, useMemo } from "react";
import type { Attitude, Bench } from "../api/client";
import { useSize } from "../ui/useSize";
import { Labels } from "./Labels";
import { type Box, placeLabels, type Wanted } from "./labels";
import { waterAt } from "./Profile";
import { extentOf, type Pixel, type Projection, path, planBox, tallSheet, underTitle, wideSheet } from "./projection";

type Lines = Bench["lines"];

/** A measure drawn as a line between two points of one view, with its length written on it. */
export type Dimension = {
  view: "plan" | "profile" | "section";
  from: readonly [number, number];
  to: readonly [number, number];
  text: string;
};

/** A named point: a mass, an opening, a post. */
export type Dot = { name: string; at: readonly number[]; shape?: "mass" | "opening" | "post" };

/** A box: a tank, foam, a place. */
export type Solid = {
  name: string;
  corner: readonly number[];
  size: readonly number[];
  fill?: number;
  quiet?: boolean;
  unnamed?: boolean; // its name stands elsewhere
};

type Props = {
  lines: Lines;
  name: string;
  attitude?: Attitude;
  dimension?: Dimension;
  dots?: Dot[];
  solids?: Solid[];
  names?: (p: Projection) => Wanted[]; // more names on the plan, among which none collides
  marks?: (p: Projection) => Box[]; // what no name may cover
  children?: (p: Projection, hull: Pixel[]) => ReactNode;
  planOnly?: boolean;
  tallSection?: boolean; // the section has room over her for what stands on her
  upright?: boolean; // on a phone the plan stands bow up at the width of the hand, to be worked on
};

const NO_DOTS: Dot[] = [];
const NO_SOLIDS: Solid[] = [];

/** The boat from her own stations, in three views, with whatever a page puts on her. */
export function BoatDrawing({
  lines,
  name,
  attitude,
  dimension,
  dots = NO_DOTS,
  solids = NO_SOLIDS,
  names,
  marks,
  children,
  planOnly,
  upright,
  tallSection,
}: Props) {
  const [box, size] = useSize<HTMLDivElement>();
  const narrow = size.width < 560;
  const tall = narrow && upright;
  const p = useMemo(() => {
    const extent = extentOf(lines);
    const over = tallSection ? OVER_HER : undefined;
    if (tall) return tallSheet(extent, size.width, over);
    const wide = wideSheet(extent, size.width, narrow ? 340 : Math.max(size.height, planOnly ? 600 : 420), over);
    return narrow ? wide : withLargerSection(wide, size.height);
  }, [lines, size.width, size.height, narrow, tall, planOnly, tallSection]);
  const height = planOnly || (narrow && !tall) ? p.profileBottom + 2 : p.height - 24;
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-hidden">
      {size.width > 0 && (
        <svg width={p.width} height={height} role="group" aria-label={`${name}, drawing`} className="block select-none">
          <Outlines lines={lines} p={p} attitude={attitude} />
          <Solids solids={solids} p={p} />
          {children?.(p, outlineOf(lines, p))}
          {dots.map((d, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: several may have no name
            <DotInViews key={`${d.name}${i}`} d={d} p={p} named={!dots.slice(0, i).some((e) => sameSide(e, d))} />
          ))}
          <PlanNames lines={lines} p={p} dots={dots} solids={solids} names={names} marks={marks} />
          {dimension && <DimensionLine d={dimension} p={p} />}
        </svg>
      )}
    </div>
  );
}

const OVER_HER = 1.5; // metres over the keel in the section, for what stands on her

const LOWER = 18; // pixels: what stands over the sheer must not meet the view's name

/** The room that the bench fills with gauges goes to the section here. */
function withLargerSection(p: Projection, height: number): Projection {
  const high = p.sectionBottom - p.sectionTop;
  const k = Math.min((height - 34 - LOWER - p.sectionTop) / high, 2);
  if (k <= 1.05) return p;
  const grown = ([x, y]: Pixel): Pixel => [
    p.sectionLeft + (x - p.sectionLeft) * k,
    p.sectionTop + LOWER + (y - p.sectionTop) * k,
  ];
  return {
    ...p,
    section: (y, z) => grown(p.section(y, z)),
    sectionRight: p.sectionLeft + (p.sectionRight - p.sectionLeft) * k,
    sectionBottom: p.sectionTop + LOWER + high * k,
    height: p.height + LOWER + high * (k - 1),
  };
}

const Outlines = memo(function Outlines({ lines, p, attitude }: { lines: Lines; p: Projection; attitude?: Attitude }) {
  const port = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, y));
  const starboard = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, -y)).reverse();
  const keel = lines.keel_xz_m.map(([x, z]) => p.profile(x, z));
  const sheer = lines.profile_sheer_xz_m.map(([x, z]) => p.profile(x, z));
  const last = lines.profile_sheer_xz_m.at(-1)?.[0] ?? 0;
  const middle = lines.sections[Math.floor(lines.sections.length / 2)];
  const half = middle?.half_yz_m ?? [];
  const section = [...half.map(([y, z]) => p.section(-y, z)).reverse(), ...half.map(([y, z]) => p.section(y, z))];
  return (
    <g aria-hidden="true" fill="none" stroke="currentColor">
      {attitude && (
        <path
          d={path(
            [
              p.profile(-0.4, waterAt(attitude, -0.4, 0)),
              p.profile(last + 0.2, waterAt(attitude, last + 0.2, 0)),
              p.profile(last + 0.2, -0.16),
              p.profile(-0.4, -0.16),
            ],
            true,
          )}
          fill="var(--water)"
          stroke="none"
        />
      )}
      <path d={path([...port, ...starboard], true)} fill="var(--color-base-100)" strokeWidth="1.8" />
      <path d={path([p.plan(-0.15, 0), p.plan(last + 0.1, 0)])} stroke="var(--hair)" strokeDasharray="14 4 3 4" />
      <path
        d={path([...keel, ...[...sheer].reverse()], true)}
        strokeWidth="1.8"
        fill="var(--color-base-100)"
        fillOpacity="0.55"
      />
      {lines.plan_chines_xy_m.flatMap((c, i) =>
        [1, -1].map((side) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: chines have no other name
            key={`${i}${side}`}
            d={path(c.map(([x, y]) => p.plan(x, side * y)))}
            strokeWidth="0.8"
            strokeDasharray="6 4"
          />
        )),
      )}
      {lines.profile_chines_xz_m.map((c, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: chines have no other name
        <path key={i} d={path(c.map(([x, z]) => p.profile(x, z)))} strokeWidth="0.8" strokeDasharray="6 4" />
      ))}
      <path d={path(section)} strokeWidth="1.8" />
      <Label at={[p.sectionLeft, p.planTop - 12]} text="Plan" />
      <Label at={[p.sectionLeft, p.profileTop - 4]} text="Profile" />
      <Label at={[p.sectionLeft, p.sectionTop - 10]} text="Section amidships, from astern" />
    </g>
  );
});

function Label({ at, text }: { at: Pixel; text: string }) {
  return (
    <text
      x={at[0]}
      y={at[1]}
      className="label-type"
      fontSize="13"
      letterSpacing="1.5"
      fill="currentColor"
      stroke="none"
    >
      {text.toUpperCase()}
    </text>
  );
}

const Solids = memo(function Solids({ solids, p }: { solids: Solid[]; p: Projection }) {
  return solids.map((s) => <SolidInViews key={s.name} s={s} p={p} />);
});

function SolidInViews({ s, p }: { s: Solid; p: Projection }) {
  const plan = planBox(p, s.corner, s.size);
  const [x = 0, y = 0, z = 0] = s.corner;
  const [dx = 0, dy = 0, dz = 0] = s.size;
  const top = p.profile(x, z + dz);
  const foot = p.profile(x + dx, z);
  const full = p.profile(x, z + dz * (s.fill ?? 0));
  const left = p.section(y + dy, z + dz);
  const right = p.section(y, z);
  const line = {
    fill: "none",
    stroke: s.quiet ? "var(--hair)" : "currentColor",
    strokeWidth: 1,
    strokeDasharray: s.quiet ? "2 3" : undefined,
  };
  return (
    <g aria-hidden="true">
      <rect {...plan} {...line} />
      {s.fill !== undefined && (
        <rect x={top[0]} y={full[1]} width={foot[0] - top[0]} height={foot[1] - full[1]} fill="var(--water)" />
      )}
      <rect x={top[0]} y={top[1]} width={foot[0] - top[0]} height={foot[1] - top[1]} {...line} />
      {!s.quiet && (
        <rect x={left[0]} y={left[1]} width={right[0] - left[0]} height={right[1] - left[1]} {...line} opacity="0.5" />
      )}
    </g>
  );
}

type PlanNamesProps = {
  lines: Lines;
  p: Projection;
  dots: Dot[];
  solids: Solid[];
  names: Props["names"];
  marks: Props["marks"];
};

/** The names of what a page puts on the plan; openings are named in the profile. */
const PlanNames = memo(function PlanNames({ lines, p, dots, solids, names, marks: covered }: PlanNamesProps) {
  const more = names?.(p) ?? [];
  const avoid = covered?.(p) ?? [];
  const boxes = solids.map((s) => planBox(p, s.corner, s.size));
  const marks = dots.map((d) => {
    const [x, y] = p.plan(d.at[0] ?? 0, d.at[1] ?? 0);
    return { x: x - DOT, y: y - DOT, width: 2 * DOT, height: 2 * DOT };
  });
  const wanted: Wanted[] = [...more];
  for (const [i, s] of solids.entries())
    if (!s.unnamed) wanted.push({ key: `solid ${i}`, text: s.name, box: boxes[i] as Box, leader: true });
  for (const [i, d] of dots.entries())
    if (d.name && d.shape !== "opening")
      wanted.push({ key: `dot ${i}`, text: d.name, box: marks[i] as Box, leader: true });
  const { bounds, title } = underTitle(p);
  const placed = placeLabels(wanted, {
    bounds,
    marks: [...marks, ...more.map((w) => w.box), ...avoid, title],
    solids: boxes,
    strokes: [outlineOf(lines, p)],
    size: 12,
  });
  const quiet = (key: string) => key.startsWith("solid") && solids[Number(key.slice(6))]?.quiet;
  return <Labels placed={placed} inkOf={(key) => (quiet(key) ? "var(--quiet)" : "currentColor")} />;
});

/** The hull's outline in plan, closed. */
function outlineOf(lines: Lines, p: Projection): Pixel[] {
  const side = (sign: 1 | -1) => lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, sign * y));
  const [port, starboard] = [side(1), side(-1).reverse()];
  return [...port, ...starboard, ...port.slice(0, 1)];
}

const DOT = 8; // pixels, half of a mark

/** Whether two points fall together seen from the side. */
function sameSide(a: Dot, b: Dot): boolean {
  return Math.abs((a.at[0] ?? 0) - (b.at[0] ?? 0)) < 0.02 && Math.abs((a.at[2] ?? 0) - (b.at[2] ?? 0)) < 0.02;
}

function DotInViews({ d, p, named }: { d: Dot; p: Projection; named: boolean }) {
  const [x = 0, y = 0, z = 0] = d.at;
  return (
    <g aria-hidden="true">
      {[p.plan(x, y), p.profile(x, z)].map(([cx, cy], i) => (
        <g key={i === 0 ? "plan" : "profile"} transform={`translate(${cx} ${cy})`}>
          {d.shape === "opening" ? (
            <path d="M-6 -7L0 0L6 -7" fill="none" stroke="currentColor" strokeWidth="1.6" />
          ) : (
            <circle
              r={d.shape === "post" ? 6 : 5}
              fill={d.shape === "post" ? "none" : "var(--color-base-100)"}
              stroke="currentColor"
              strokeWidth="1.4"
            />
          )}
          {d.shape === "mass" && <path d="M-8 0H8M0 -8V8" stroke="currentColor" />}
          {named && i === 1 && d.shape === "opening" && (
            <text
              x={9}
              y={4}
              fontSize="12"
              className="label-type"
              fill="currentColor"
              stroke="var(--color-base-100)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {d.name}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

function DimensionLine({ d, p }: { d: Dimension; p: Projection }) {
  const at = { plan: p.plan, profile: p.profile, section: p.section }[d.view];
  const a = at(...d.from);
  const b = at(...d.to);
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const nx = (-(b[1] - a[1]) / length) * 6;
  const ny = ((b[0] - a[0]) / length) * 6;
  const middle: Pixel = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  return (
    <g stroke="var(--color-accent)" strokeWidth="2" data-testid="dimension">
      <path d={path([a, b])} />
      {[a, b].map(([x, y]) => (
        <path key={`${x} ${y}`} d={`M${x - nx} ${y - ny}L${x + nx} ${y + ny}`} />
      ))}
      <text
        x={middle[0] + (Math.abs(nx) > 3 ? 10 : 0)}
        y={middle[1] - (Math.abs(ny) > 3 ? 9 : -5)}
        textAnchor={Math.abs(nx) > 3 ? "start" : "middle"}
        fontSize="15"
        className="figure-type"
        fill="var(--loud-ink)"
        stroke="var(--color-base-100)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {d.text}
      </text>
    </g>
  );
}
