import type { Bench } from "../../api/client";
import type { Units } from "../../domain/units";
import { path } from "../../drawing/projection";
import { useSize } from "../../ui/useSize";
import type { Road } from "./RoadPage";

type Props = { bench: Bench; road: Road; trailer: NonNullable<Road["trailer"]>; units: Units };

const HEIGHT = 230;

/** The boat on her trailer, to scale, with what stands on axle and hitch. */
export function TrailerDrawing(props: Props) {
  const [box, size] = useSize<HTMLDivElement>();
  return <div ref={box}>{size.width > 0 && <Drawing {...props} width={size.width} />}</div>;
}

function Drawing({ bench, road, trailer, units, width }: Props & { width: number }) {
  const { lines } = bench;
  const first = Math.min(-0.5, trailer.axle_m - 0.6);
  const last = Math.max(trailer.hitch_m, lines.profile_sheer_xz_m.at(-1)?.[0] ?? 5) + 0.4;
  const scale = Math.min((width - 40) / (last - first), 110);
  const top = Math.max(
    ...lines.profile_sheer_xz_m.map((q) => q[1]),
    ...bench.places.map((q) => q.corner_m[2] + q.size_m[2]),
  );
  const height = Math.min(HEIGHT, (top + 0.6) * scale + 56);
  const ground = height - 46;
  const wheel = 0.3;
  const bed = 0.5; // metres of keel over the ground, as drawn
  const x = (m: number) => 20 + (m - first) * scale;
  const z = (m: number) => ground - (m + bed) * scale;
  const outline = [
    ...lines.keel_xz_m.map(([a, b]): [number, number] => [x(a), z(b)]),
    ...[...lines.profile_sheer_xz_m].reverse().map(([a, b]): [number, number] => [x(a), z(b)]),
  ];
  const row = (key: string) => road.rows.find((r) => r.key === key);
  const load = (m: number) => `${units.mass(m, 0)} ${units.massUnit}`;
  const axleWrong = row("axle")?.met === false || row("tyre")?.met === false;
  const hitchWrong = row("hitch")?.met === false || row("share")?.met === false;
  return (
    <svg
      width={width}
      height={height}
      className="block"
      role="img"
      aria-label={`On the axle ${load(road.axle_kg)}, on the hitch ${load(road.hitch_kg)}`}
    >
      <path d={`M0 ${ground}H${width}`} stroke="var(--hair)" />
      <path d={path(outline, true)} fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.8" />
      {bench.places.map((q) => (
        <rect
          key={q.id}
          x={x(q.corner_m[0])}
          y={z(q.corner_m[2] + q.size_m[2])}
          width={q.size_m[0] * scale}
          height={q.size_m[2] * scale}
          fill="none"
          stroke="var(--hair)"
          strokeWidth="0.8"
        />
      ))}
      {road.things
        .filter((t) => t.rides === "boat" && t.kg > 3)
        .map((t) => (
          <circle
            key={t.gear_id}
            cx={x(t.x_m)}
            cy={z(0.35)}
            r={Math.min(12, 2 + Math.sqrt(t.kg))}
            fill={t.should_ride_elsewhere ? "var(--color-accent)" : "var(--water)"}
            stroke="currentColor"
            strokeWidth="0.8"
          />
        ))}
      <path
        d={`M${x(0.1)} ${z(-0.06)}H${x(trailer.hitch_m - 0.9)}L${x(trailer.hitch_m)} ${z(-0.1)}`}
        fill="none"
        stroke="currentColor"
        strokeWidth="3"
      />
      <circle
        cx={x(trailer.axle_m)}
        cy={ground - wheel * scale}
        r={wheel * scale}
        fill="var(--color-base-100)"
        stroke="currentColor"
        strokeWidth="3"
      />
      <Arrow at={x(trailer.axle_m)} y={ground} text={`axle ${load(road.axle_kg)}`} loud={axleWrong} />
      <Arrow
        at={x(trailer.hitch_m)}
        y={ground}
        text={`hitch ${load(road.hitch_kg)}, ${(road.share * 100).toFixed(1)} %`}
        loud={hitchWrong}
        end
      />
    </svg>
  );
}

function Arrow({ at, y, text, loud, end }: { at: number; y: number; text: string; loud: boolean; end?: boolean }) {
  const colour = loud ? "var(--loud-ink)" : "currentColor";
  return (
    <g stroke={colour} fill={colour}>
      <path
        d={`M${at} ${y + 2}V${y + 18}M${at - 5} ${y + 8}L${at} ${y + 2}L${at + 5} ${y + 8}`}
        fill="none"
        strokeWidth="2"
      />
      <text
        x={at}
        y={y + 38}
        textAnchor={end ? "end" : "middle"}
        fontSize="18"
        className="figure-type"
        stroke="none"
        fill={colour}
      >
        {text}
      </text>
    </g>
  );
}
