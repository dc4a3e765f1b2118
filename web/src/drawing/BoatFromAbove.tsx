import type { ReactNode } from "react";
import type { Bench } from "../api/client";
import { path } from "./projection";

type Box = { corner_m: number[]; size_m: number[] };

/** Where a point and a box of the boat lie on a picture of her from above, bow to the right, a metre being a hundred units. */
export function fromAbove(bench: Pick<Bench, "lines">) {
  const sheer = bench.lines.plan_sheer_xy_m;
  const length = Math.max(...sheer.map((q) => q[0]));
  const half = Math.max(...sheer.map((q) => q[1]));
  const low = Math.min(...sheer.map((q) => q[0]));
  const at = (x: number, y: number): [number, number] => [(x - low + 0.08) * 100, (half - y + 0.08) * 100];
  const rect = ({ corner_m, size_m }: Box) => {
    const [x, y] = at(corner_m[0] ?? 0, (corner_m[1] ?? 0) + (size_m[1] ?? 0));
    return { x, y, width: (size_m[0] ?? 0) * 100, height: (size_m[1] ?? 0) * 100 };
  };
  return { at, rect, width: (length - low + 0.16) * 100, height: (2 * half + 0.16) * 100 };
}

type Props = { bench: Pick<Bench, "lines">; label: string; children: ReactNode };

/** Her outline from above, with what is drawn into it. */
export function BoatFromAbove({ bench, label, children }: Props) {
  const { at, width, height } = fromAbove(bench);
  const sheer = bench.lines.plan_sheer_xy_m;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={label}>
      <path
        d={path([...sheer.map(([x, y]) => at(x, y)), ...[...sheer].reverse().map(([x, y]) => at(x, -y))], true)}
        fill="var(--color-base-200)"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      {children}
    </svg>
  );
}
