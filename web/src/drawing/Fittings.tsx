import { memo } from "react";
import type { Schemas } from "../api/client";
import { type Pixel, type Projection, path } from "./projection";
import { along, axesOf, cornersOf, type Lies, middleOf, tipOf, type Vec } from "./stance";

export type Drawn = {
  id: string;
  name: string;
  kind: Schemas["FittingInput"]["kind"];
  lies: Lies;
  loud?: boolean; // something is in its way
  held?: boolean; // it is in hand
};

type Props = { list: Drawn[]; p: Projection; onTake?: (id: string) => void };

/** What is fastened to her, to scale in all three views. */
export const Fittings = memo(function Fittings({ list, p, onTake }: Props) {
  return (
    <>
      <Bands p={p} />
      {list.map((f) => (
        <Fitting key={f.id} f={f} p={p} onTake={onTake} />
      ))}
    </>
  );
});

/** What of a rod or a mast leaves its view is cut off there, so that no view draws over another. */
function Bands({ p }: { p: Projection }) {
  const planBottom = p.profileTop - 22;
  return (
    <>
      <clipPath id="in-plan">
        <rect x={0} y={0} width={p.width} height={planBottom} />
      </clipPath>
      <clipPath id="in-profile">
        <rect x={0} y={p.profileTop} width={p.width} height={p.profileBottom - p.profileTop} />
      </clipPath>
      <clipPath id="in-section">
        <rect x={0} y={p.sectionTop - 6} width={p.width} height={p.sectionBottom - p.sectionTop + 12} />
      </clipPath>
    </>
  );
}

const Fitting = memo(function Fitting({ f, p, onTake }: { f: Drawn; p: Projection; onTake?: (id: string) => void }) {
  const ink = f.held || f.loud ? "var(--color-accent)" : "currentColor";
  const shape = { stroke: ink, strokeWidth: f.held ? 2.2 : 1.1, strokeLinejoin: "round" as const };
  const take = onTake && (() => onTake(f.id));
  const plan = outlineIn(p, "plan", f.lies);
  const middle = p.plan(f.lies.at_m[0], f.lies.at_m[1]);
  return (
    <g data-fitting={f.name}>
      {(["profile", "section"] as const).map((view) => (
        <g
          key={view}
          aria-hidden="true"
          clipPath={`url(#in-${view})`}
          opacity={view === "section" && !f.held ? 0.55 : 1}
        >
          <Legs lies={f.lies} p={p} view={view} ink={ink} />
          <path d={path(outlineIn(p, view, f.lies), true)} fill="var(--color-base-100)" fillOpacity="0.6" {...shape} />
          <Reaches f={f} p={p} view={view} ink={ink} />
        </g>
      ))}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it is a button where it can be taken */}
      <g
        role={take && "button"}
        tabIndex={take && 0}
        aria-label={take && `Take ${f.name} in hand`}
        className={
          take && "cursor-pointer outline-none [&:focus-visible>path]:stroke-accent [&:focus-visible>path]:stroke-[3]"
        }
        onClick={take}
        onKeyDown={
          take &&
          ((e) => {
            if (e.key !== "Enter" && e.key !== " ") return;
            e.preventDefault();
            take();
          })
        }
      >
        <title>{f.name}</title>
        {take && <circle cx={middle[0]} cy={middle[1]} r="13" fill="transparent" />}
        <g clipPath="url(#in-plan)">
          <Reaches f={f} p={p} view="plan" ink={ink} />
        </g>
        <path d={path(plan, true)} fill="var(--color-base-100)" fillOpacity="0.85" {...shape} />
        <Face f={f} p={p} ink={ink} />
      </g>
    </g>
  );
});

type View = "plan" | "profile" | "section";

/** A point of the boat in a view. */
function seen(p: Projection, view: View, v: Vec): Pixel {
  if (view === "plan") return p.plan(v[0], v[1]);
  return view === "profile" ? p.profile(v[0], v[2]) : p.section(v[1], v[2]);
}

/** What a fitting's body covers in a view. */
export function outlineIn(p: Projection, view: View, lies: Lies): Pixel[] {
  return hullOf(cornersOf(lies).map((c) => seen(p, view, c)));
}

/** What it stands on, between its foot and its body. */
function Legs({ lies, p, view, ink }: { lies: Lies; p: Projection; view: View; ink: string }) {
  const high = lies.legs_m ?? 0;
  if (high <= 0 || lies.stands !== "up") return null;
  const axes = axesOf(lies);
  const legs = [-0.45, 0.45].map((s) => {
    const foot = along(lies.at_m, axes, [s * lies.size_m[0], s * lies.size_m[1], 0]);
    const top = along(foot, axes, [0, 0, high]);
    return path([seen(p, view, foot), seen(p, view, top)]);
  });
  return <path d={legs.join("")} fill="none" stroke={ink} strokeWidth="1.1" />;
}

/** The convex outline of some points (Andrew's monotone chain). */
function hullOf(points: Pixel[]): Pixel[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: Pixel[]) => {
    const chain: Pixel[] = [];
    for (const q of list) {
      while (chain.length >= 2 && turns(chain.at(-2) as Pixel, chain.at(-1) as Pixel, q) <= 0) chain.pop();
      chain.push(q);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

function turns(o: Pixel, a: Pixel, b: Pixel): number {
  return (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
}

/** The rod that it holds, what it sweeps, where its lamp shines. */
function Reaches({ f, p, view, ink }: { f: Drawn; p: Projection; view: View; ink: string }) {
  const at = f.lies.at_m as Vec;
  const from = seen(p, view, at);
  const scale = Math.hypot(...sub(seen(p, view, [at[0] + 1, at[1] + 1, at[2]]), from)) / Math.SQRT2;
  return (
    <>
      {(f.lies.rod_m ?? 0) > 0 && (
        <line
          x1={from[0]}
          y1={from[1]}
          x2={seen(p, view, tipOf(f.lies))[0]}
          y2={seen(p, view, tipOf(f.lies))[1]}
          stroke={ink}
          strokeWidth="1"
          strokeDasharray="7 3"
        />
      )}
      {view === "plan" && (f.lies.swing_m ?? 0) > 0 && (
        <circle
          cx={from[0]}
          cy={from[1]}
          r={(f.lies.swing_m ?? 0) * scale}
          fill="none"
          stroke={ink}
          strokeWidth="0.9"
          strokeDasharray="2 3"
        />
      )}
      {view === "plan" && f.held && (f.lies.beam_deg ?? 0) > 0 && (
        <path d={path(beamOf(f.lies, p), false)} fill="none" stroke={ink} strokeWidth="0.9" strokeDasharray="2 3" />
      )}
    </>
  );
}

const BEAM = 1.2; // metres of a lamp's light that are drawn

function beamOf(l: Lies, p: Projection): Pixel[] {
  const [x = 0, y = 0] = middleOf(l);
  return [-1, 0, 1].map((side): Pixel => {
    const a = (((l.turn_deg ?? 0) + (side * Math.min(l.beam_deg ?? 0, 340)) / 2) * Math.PI) / 180;
    return side === 0 ? p.plan(x, y) : p.plan(x + BEAM * Math.cos(a), y + BEAM * Math.sin(a));
  });
}

function sub(a: Pixel, b: Pixel): Pixel {
  return [a[0] - b[0], a[1] - b[1]];
}

const FACING = ["display", "transducer", "control", "light", "seat", "bow-motor", "hook"];

/** The side to which it faces, thicker. */
function Face({ f, p, ink }: { f: Drawn; p: Projection; ink: string }) {
  if (!FACING.includes(f.kind)) return null;
  const axes = axesOf(f.lies);
  const middle = middleOf(f.lies, axes);
  const [l, b] = f.lies.size_m;
  const ends = [-1, 1].map((s) => along(middle, axes, [l / 2, (s * b) / 2, 0])).map((v) => p.plan(v[0], v[1]));
  return <path d={path(ends)} stroke={ink} strokeWidth="3" fill="none" />;
}
