import type { Bench, Schemas } from "../api/client";

/** A point on the sheet, in pixels. */
export type Pixel = [number, number];

/** Where the boat's metres fall on the sheet. */
export type Projection = {
  scale: number;
  width: number;
  height: number;
  plan: (x: number, y: number) => Pixel;
  profile: (x: number, z: number) => Pixel;
  section: (y: number, z: number) => Pixel;
  planTop: number;
  profileTop: number;
  profileBottom: number;
  sectionLeft: number;
  sectionRight: number;
  sectionTop: number;
  sectionBottom: number;
  bowUp: boolean;
};

const ABAFT = 0.55; // metres left free behind the transom, for the motor and a gauge
const AHEAD = 0.35;
const HEADROOM = 1.42; // metres over the keel in profile, for people standing
const UNDER = 0.18;
const GAP = 33; // pixels between the views, for their names
const NAMES = 32; // pixels over and under the plan, for names on leader lines
const RULER = 24; // pixels under the plan and its names

export type Extent = { length: number; halfBeam: number; top: number };

export function extentOf(lines: Bench["lines"]): Extent {
  const length = Math.max(...lines.profile_sheer_xz_m.map((p) => p[0]));
  const halfBeam = Math.max(...lines.plan_sheer_xy_m.map((p) => p[1]));
  const top = Math.max(...lines.profile_sheer_xz_m.map((p) => p[1]));
  return { length, halfBeam, top };
}

/** The section is drawn smaller than the rest, so that plan and lockers can be large. */
const SECTION_SHARE = 0.72;

/** Plan above, profile below on the same length axis, section and gauges in a row under them. */
export function wideSheet(e: Extent, width: number, height: number, sectionHigh = Math.min(e.top, 0.86)): Projection {
  const across = e.length + ABAFT + AHEAD;
  const upright = Math.max(e.top, HEADROOM) + UNDER;
  const low = (sectionHigh + UNDER) * SECTION_SHARE;
  const down = 2 * e.halfBeam + upright + low;
  const scale = Math.max(40, Math.min((width - 24) / across, (height - 2 * NAMES - RULER - 2 * GAP - 18) / down));
  const small = scale * SECTION_SHARE;
  const left = (width - across * scale) / 2 + ABAFT * scale;
  const planTop = NAMES;
  const planMiddle = planTop + e.halfBeam * scale;
  const profileTop = planTop + 2 * e.halfBeam * scale + NAMES + RULER + GAP / 2;
  const profileZero = profileTop + Math.max(e.top, HEADROOM) * scale;
  const profileBottom = profileZero + UNDER * scale;
  const sectionTop = profileBottom + GAP;
  const sectionZero = sectionTop + sectionHigh * small;
  const sectionWidth = (2 * e.halfBeam + 0.5) * small;
  const sectionMiddle = left - ABAFT * scale + sectionWidth / 2;
  return {
    scale,
    width,
    height: sectionZero + UNDER * small + 30,
    plan: (x, y) => [left + x * scale, planMiddle - y * scale],
    profile: (x, z) => [left + x * scale, profileZero - z * scale],
    section: (y, z) => [sectionMiddle - y * small, sectionZero - z * small],
    planTop,
    profileTop,
    profileBottom,
    sectionLeft: sectionMiddle - sectionWidth / 2,
    sectionRight: sectionMiddle + sectionWidth / 2,
    sectionTop,
    sectionBottom: sectionZero + UNDER * small,
    bowUp: false,
  };
}

/** On a phone the plan stands bow up at the width of the hand; the rest follows below. */
export function tallSheet(e: Extent, width: number, sectionHigh = e.top + 0.2): Projection {
  const scale = Math.min((width - 32) / (2 * e.halfBeam), 190);
  const middle = width / 2;
  const planTop = 24;
  const planBottom = planTop + (e.length + 0.1) * scale;
  const small = (width - 24) / (e.length + ABAFT * 0.9 + AHEAD);
  const left = 12 + ABAFT * 0.9 * small;
  const profileTop = planBottom + GAP;
  const profileZero = profileTop + Math.max(e.top, HEADROOM) * small;
  const profileBottom = profileZero + UNDER * small;
  const wide = (width - 60) / (2 * e.halfBeam + 0.5);
  const sectionTop = profileBottom + GAP;
  const sectionZero = sectionTop + sectionHigh * wide;
  return {
    scale,
    width,
    height: sectionZero + UNDER * wide + 26,
    plan: (x, y) => [middle - y * scale, planTop + (e.length - x) * scale],
    profile: (x, z) => [left + x * small, profileZero - z * small],
    section: (y, z) => [middle - y * wide, sectionZero - z * wide],
    planTop,
    profileTop,
    profileBottom,
    sectionLeft: 30,
    sectionRight: width - 30,
    sectionTop,
    sectionBottom: sectionZero + UNDER * wide,
    bowUp: true,
  };
}

/** Where names in plan may stand on a sheet that titles its views, and the title that they keep clear of. */
export function underTitle(p: Projection) {
  return {
    bounds: { x: 4, y: p.planTop - 30, width: p.width - 8, height: p.profileTop - p.planTop + 10 },
    title: { x: p.sectionLeft, y: p.planTop - 24, width: 44, height: 16 },
  };
}

/** The rectangle on the sheet of a box in plan. */
export function planBox(p: Projection, corner: readonly number[], size: readonly number[]) {
  const [x = 0, y = 0] = corner;
  const [dx = 0, dy = 0] = size;
  const a = p.plan(x, y);
  const b = p.plan(x + dx, y + dy);
  return {
    x: Math.min(a[0], b[0]),
    y: Math.min(a[1], b[1]),
    width: Math.abs(a[0] - b[0]),
    height: Math.abs(a[1] - b[1]),
  };
}

export function path(points: Pixel[], close = false): string {
  return `${points.map(([x, y], i) => `${i ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`).join("")}${close ? "Z" : ""}`;
}

type Laid = Schemas["Laid"];

/** A rod from above: as broad as its reel at the butt, as its largest guide at the tip; at says where a point of the boat is drawn. */
export function rodOutline(at: (x: number, y: number) => readonly number[], l: Laid, rod: Schemas["RodView"]): string {
  const [aft, fore] = [l.corner_m[0], l.corner_m[0] + l.size_m[0]];
  const [aftY, foreY] = [rod.aft_y_m, rod.fore_y_m];
  return [at(aft, aftY[0]), at(fore, foreY[0]), at(fore, foreY[1]), at(aft, aftY[1])].map((q) => q.join(",")).join(" ");
}
