import type { Attitude, Bench } from "../api/client";
import { Outline, Water, waterAt } from "./Profile";
import { type Pixel, type Projection, path } from "./projection";

type Props = { bench: Bench; attitude: Attitude | undefined; p: Projection; index: number };

/** A section seen from astern: port on the left. */
export function Section({ bench, attitude, p, index }: Props) {
  const section = bench.lines.sections[index];
  if (!section) return null;
  const port = section.half_yz_m.map(([y, z]) => p.section(y, z));
  const starboard = section.half_yz_m.map(([y, z]) => p.section(-y, z)).reverse();
  const edge = (y: number): Pixel => p.section(y, attitude ? waterAt(attitude, section.x_m, y) : 0);
  const cut = bench.places.filter(
    (q) => q.corner_m[0] <= section.x_m + 1e-6 && q.corner_m[0] + q.size_m[0] >= section.x_m - 1e-6,
  );
  return (
    <g aria-hidden="true">
      <clipPath id="section-clip">
        <rect
          x={p.sectionLeft}
          y={p.sectionTop - 4}
          width={p.sectionRight - p.sectionLeft}
          height={p.sectionBottom - p.sectionTop + 4}
        />
      </clipPath>
      {attitude && <Water from={edge(2)} to={edge(-2)} clip="section-clip" />}
      <path
        d={path([...starboard, ...port])}
        fill="var(--color-base-100)"
        fillOpacity="0.55"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinejoin="round"
      />
      {cut.map((q) => {
        const [, y, z] = q.corner_m;
        const [, breadth, height] = q.size_m;
        return <Outline key={q.id} a={p.section(y + breadth, z + height)} b={p.section(y, z)} />;
      })}
      <line
        x1={p.section(0, 0)[0]}
        x2={p.section(0, 0)[0]}
        y1={p.sectionTop}
        y2={p.sectionBottom}
        stroke="var(--quiet)"
        strokeWidth="0.8"
        strokeDasharray="14 4 3 4"
      />
    </g>
  );
}
