import type { Schemas } from "../api/client";

export type Lies = Schemas["FittingLies"];
export type Vec = [number, number, number];

/** Where a fitting faces, what is to its left, its own upright: as core/clear turns it. */
export function axesOf(l: Lies): [Vec, Vec, Vec] {
  const turn = ((l.turn_deg ?? 0) * Math.PI) / 180;
  const lean = ((l.lean_deg ?? 0) * Math.PI) / 180;
  const face: Vec = [Math.cos(turn), Math.sin(turn), 0];
  const left: Vec = [-Math.sin(turn), Math.cos(turn), 0];
  const [s, c] = [Math.sin(lean), Math.cos(lean)];
  return [[c * face[0], c * face[1], -s], left, [s * face[0], s * face[1], c]];
}

/** A point so far along a fitting's axes from another. */
export function along(from: readonly number[], axes: [Vec, Vec, Vec], by: readonly number[]): Vec {
  const at = (k: 0 | 1 | 2) => (from[k] ?? 0) + axes.reduce((sum, a, i) => sum + (by[i] ?? 0) * a[k], 0);
  return [at(0), at(1), at(2)];
}

/** The middle of its body. */
export function middleOf(l: Lies, axes = axesOf(l)): Vec {
  if (l.stands === "down") return along(l.at_m, axes, [0, 0, -l.size_m[2] / 2]);
  if (l.stands === "out") return along(l.at_m, axes, [l.size_m[0] / 2, 0, 0]);
  return along(l.at_m, axes, [0, 0, (l.legs_m ?? 0) + l.size_m[2] / 2]);
}

/** The corners of its body. */
export function cornersOf(l: Lies): Vec[] {
  const axes = axesOf(l);
  const middle = middleOf(l, axes);
  const half = l.size_m.map((s) => s / 2);
  const ends = [-1, 1] as const;
  return ends.flatMap((i) =>
    ends.flatMap((j) =>
      ends.map((k) => along(middle, axes, [i * (half[0] ?? 0), j * (half[1] ?? 0), k * (half[2] ?? 0)])),
    ),
  );
}

/** Where the rod that it holds ends. */
export function tipOf(l: Lies): Vec {
  return along(l.at_m, axesOf(l), [0, 0, l.rod_m ?? 0]);
}
