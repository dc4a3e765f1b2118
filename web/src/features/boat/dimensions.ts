import type { Bench } from "../../api/client";
import type { Dimension } from "../../drawing/BoatDrawing";

type Lines = Bench["lines"];
type Line = Omit<Dimension, "text">;
type Measures = Record<string, number>;

const at = (m: Measures, key: string) => m[key] ?? 0;

function widest(points: readonly (readonly [number, number])[]): [number, number] {
  return points.reduce<[number, number]>((best, [x, y]) => (y > best[1] ? [x, y] : best), [0, 0]);
}

function across(view: "plan", [x, y]: readonly [number, number]): Line {
  return { view, from: [x, -y], to: [x, y] };
}

function upright(x: number, low: number, high: number): Line {
  return { view: "profile", from: [x, low], to: [x, high] };
}

/** Where on the drawing a measure is taken, by its key. */
const TAKEN: Record<string, (l: Lines, m: Measures) => Line | undefined> = {
  length_m: (_, m) => ({ view: "profile", from: [0, -0.08], to: [at(m, "length_m"), -0.08] }),
  beam_m: (l) => across("plan", widest(l.plan_sheer_xy_m)),
  transom_beam_m: (l) => across("plan", l.plan_sheer_xy_m[0] ?? [0, 0]),
  chine_beam_m: (l) => l.plan_chines_xy_m[0] && across("plan", widest(l.plan_chines_xy_m[0])),
  bottom_beam_m: (l) => l.plan_chines_xy_m[0] && across("plan", widest(l.plan_chines_xy_m[0])),
  bow_beam_m: (l) => across("plan", l.plan_sheer_xy_m.at(-1) ?? [0, 0]),
  half_depth_beam_m: (_, m) => {
    const half = at(m, "half_depth_beam_m") / 2;
    const z = at(m, "depth_amidships_m") / 2;
    return { view: "section", from: [-half, z], to: [half, z] };
  },
  transom_half_depth_beam_m: (_, m) => {
    const half = at(m, "transom_half_depth_beam_m") / 2;
    return { view: "plan", from: [0.02, -half], to: [0.02, half] };
  },
  depth_aft_m: (l, m) => upright(l.profile_sheer_xz_m[0]?.[0] ?? 0, 0, at(m, "depth_aft_m")),
  depth_amidships_m: (_, m) => upright(at(m, "length_m") / 2, 0, at(m, "depth_amidships_m")),
  depth_forward_m: (_, m) => upright(at(m, "length_m"), 0, at(m, "depth_forward_m")),
  forefoot_m: (_, m) => ({
    view: "profile",
    from: [at(m, "length_m") - at(m, "forefoot_m"), -0.08],
    to: [at(m, "length_m"), -0.08],
  }),
  notch_m: (_, m) => upright(0, 0, at(m, "notch_m")),
  rake_deg: (l) => ({ view: "profile", from: [0, 0], to: l.profile_sheer_xz_m[0] ?? [0, 0] }),
  transom_deadrise_deg: (l) => {
    const [, chine] = l.sections[0]?.half_yz_m ?? [];
    return chine && { view: "section", from: [0, 0], to: [chine[0], chine[1]] };
  },
  amidships_deadrise_deg: (l) => {
    const [keel, chine] = l.sections[Math.floor(l.sections.length / 2)]?.half_yz_m ?? [];
    return keel && chine && { view: "section", from: [keel[0], keel[1]], to: [chine[0], chine[1]] };
  },
  entry_deadrise_deg: (_, m) => upright(at(m, "length_m") * 0.8, 0, at(m, "depth_forward_m")),
  bow_rise_m: (_, m) => upright(at(m, "length_m"), 0, at(m, "bow_rise_m")),
  rocker_aft_m: (_, m) => upright(0, 0, at(m, "rocker_aft_m")),
  intake_m: (_, m) => upright(at(m, "intake_from_transom_m"), 0, at(m, "intake_m")),
  intake_from_transom_m: (_, m) => ({
    view: "profile",
    from: [0, at(m, "intake_m")],
    to: [at(m, "intake_from_transom_m"), at(m, "intake_m")],
  }),
};

/** The dimension line of a measure on the drawing of the hull it makes. */
export function dimensionOf(key: string | undefined, lines: Lines, m: Measures, text: string): Dimension | undefined {
  const line = key ? TAKEN[key]?.(lines, m) : undefined;
  return line && { ...line, text };
}
