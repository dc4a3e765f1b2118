import { useBench } from "../api/bench";
import type { Schemas } from "../api/client";
import { path } from "./projection";

type Props = { crew: string; boat: string; place?: string; box?: Schemas["Laid"][] };

/** The boat from above, bow to the right, with one place and what lies there made plain. */
export function MiniPlan({ crew, boat, place, box = [] }: Props) {
  const bench = useBench(crew, boat);
  if (!bench.data) return <div className="h-28" aria-hidden="true" />;
  const { lines, places, name } = bench.data;
  const sheer = lines.plan_sheer_xy_m;
  const length = Math.max(...sheer.map((q) => q[0]));
  const half = Math.max(...sheer.map((q) => q[1]));
  const low = Math.min(...sheer.map((q) => q[0]));
  const at = (x: number, y: number): [number, number] => [(x - low + 0.08) * 100, (half - y + 0.08) * 100];
  const rect = (corner: number[], size: number[]) => {
    const [x, y] = at(corner[0] ?? 0, (corner[1] ?? 0) + (size[1] ?? 0));
    return { x, y, width: (size[0] ?? 0) * 100, height: (size[1] ?? 0) * 100 };
  };
  const here = places.find((q) => q.id === place);
  return (
    <svg
      viewBox={`0 0 ${(length - low + 0.16) * 100} ${(2 * half + 0.16) * 100}`}
      className="w-full"
      role="img"
      aria-label={`${name} from above${here ? `, ${here.name} marked` : ""}`}
    >
      <path
        d={path([...sheer.map(([x, y]) => at(x, y)), ...[...sheer].reverse().map(([x, y]) => at(x, -y))], true)}
        fill="var(--color-base-100)"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      {places.map((q) => (
        <rect key={q.id} {...rect(q.corner_m, q.size_m)} fill="none" stroke="var(--hair)" strokeWidth="1.6" />
      ))}
      {here && <rect {...rect(here.corner_m, here.size_m)} fill="var(--water)" stroke="currentColor" strokeWidth="4" />}
      {box.map((b) => (
        <rect
          key={b.corner_m.join()}
          {...rect(b.corner_m, b.size_m)}
          fill="var(--color-accent)"
          fillOpacity="0.35"
          stroke="var(--color-accent)"
          strokeWidth="4"
        />
      ))}
    </svg>
  );
}
