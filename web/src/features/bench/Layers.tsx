import { useState } from "react";
import type { Bench, Place } from "../../api/client";

type Props = { bench: Bench; place: Place; numbers: Map<string, number> };

const NAMES = ["the floor", "the second layer", "the third layer"];

/** How things lie in a place, from above and to scale; a slider looks down through the layers. */
export function Layers({ bench, place, numbers }: Props) {
  const laid = bench.state.stowage
    .filter((s) => s.place_id === place.id && !s.inside_id)
    .flatMap((s) => s.laid.map((l, i) => ({ ...l, key: `${s.gear_id} ${i}`, number: numbers.get(s.gear_id) ?? 0 })));
  const top = Math.max(0, ...laid.map((l) => l.layer));
  const [chosen, setChosen] = useState<number>();
  const layer = Math.min(chosen ?? top, top);
  if (laid.length === 0) return null;
  const [length, breadth] = place.size_m;
  // In the plan's own turn: the bow to the right, port up.
  const rect = (corner: number[], size: number[]) => ({
    x: ((corner[0] ?? 0) - place.corner_m[0]) * 1000,
    y: (breadth - ((corner[1] ?? 0) - place.corner_m[1]) - (size[1] ?? 0)) * 1000,
    width: (size[0] ?? 0) * 1000,
    height: (size[1] ?? 0) * 1000,
  });
  const type = Math.max(length, breadth) * 70;
  return (
    <div className="hairline-b px-4 py-2" data-testid="layers">
      <svg
        viewBox={`-6 -6 ${length * 1000 + 12} ${breadth * 1000 + 12}`}
        className="max-h-44 w-full"
        role="img"
        aria-label={`${place.name} from above, down to ${NAMES[layer] ?? `layer ${layer + 1}`}`}
      >
        <rect
          width={length * 1000}
          height={breadth * 1000}
          fill="var(--color-base-100)"
          stroke="currentColor"
          strokeWidth="8"
        />
        {laid
          .filter((l) => l.layer <= layer)
          .sort((a, b) => a.layer - b.layer)
          .map((l) => {
            const box = rect(l.corner_m, l.size_m);
            const here = l.layer === layer;
            return (
              <g key={l.key} opacity={here ? 1 : 0.45}>
                <rect
                  {...box}
                  fill={here ? "var(--water)" : "var(--color-base-100)"}
                  stroke="currentColor"
                  strokeWidth="4"
                />
                <text
                  x={box.x + box.width / 2}
                  y={box.y + box.height / 2 + type / 3}
                  textAnchor="middle"
                  fontSize={Math.min(type, box.height, box.width)}
                  className="figure-type"
                  fill="currentColor"
                >
                  {l.number}
                </text>
              </g>
            );
          })}
      </svg>
      {top > 0 && (
        <label className="grid pt-1 text-sm leading-tight">
          Down to {NAMES[layer] ?? `layer ${layer + 1}`}
          <input
            type="range"
            className="h-8 w-full accent-(--color-base-content)"
            min={0}
            max={top}
            value={layer}
            onChange={(e) => setChosen(Number(e.target.value))}
          />
        </label>
      )}
    </div>
  );
}
