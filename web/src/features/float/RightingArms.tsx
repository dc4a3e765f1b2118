import type { FloatReport } from "../../api/client";
import type { Units, unitsOf } from "../../domain/units";

type Curve = FloatReport["curves"][number];
type Props = { curves: Curve[]; units: Units };

const WIDTH = 560;
const HEIGHT = 250;
const LEFT = 46;
const BOTTOM = 34;
const LIMIT = 90;

/** Righting arm against heel, to port on the left and to starboard on the right. */
export function RightingArms({ curves, units }: Props) {
  const arms = curves.flatMap((c) => c.points.map((q) => q.gz_m ?? 0));
  const most = Math.max(0.05, ...arms);
  const least = Math.min(0, ...arms.filter((a) => a > -most));
  const x = (deg: number) => LEFT + ((deg + LIMIT) / (2 * LIMIT)) * (WIDTH - LEFT - 10);
  const y = (gz: number) => 12 + ((most - Math.max(gz, least)) / (most - least)) * (HEIGHT - 12 - BOTTOM);
  const sign = (c: Curve) => (c.side === "starboard" ? 1 : -1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-auto w-full max-w-3xl"
      role="img"
      aria-label={curves.map((c) => rangeSentence(c, units)).join(" ")}
    >
      <path d={`M${LEFT} ${y(0)}H${WIDTH - 10}M${x(0)} 8V${HEIGHT - BOTTOM}`} stroke="var(--quiet)" fill="none" />
      {[-90, -60, -30, 0, 30, 60, 90].map((deg) => (
        <text
          key={deg}
          x={x(deg)}
          y={HEIGHT - 16}
          textAnchor="middle"
          fontSize="12"
          className="figure-type"
          fill="currentColor"
        >
          {Math.abs(deg)}°
        </text>
      ))}
      <text x={x(-60)} y={HEIGHT - 2} textAnchor="middle" fontSize="12" className="label-type" fill="var(--quiet)">
        heel to port
      </text>
      <text x={x(60)} y={HEIGHT - 2} textAnchor="middle" fontSize="12" className="label-type" fill="var(--quiet)">
        heel to starboard
      </text>
      <text x={LEFT - 4} y={y(most) + 4} textAnchor="end" fontSize="12" className="figure-type" fill="currentColor">
        {units.small(most)} {units.smallUnit}
      </text>
      {curves.map((c) => {
        const s = sign(c);
        const inside = c.points.filter((q) => q.heel_deg <= c.range_deg + 0.01 && q.gz_m !== undefined);
        const line = (list: typeof c.points) =>
          list
            .filter((q) => q.gz_m !== undefined)
            .map((q, i) => `${i ? "L" : "M"}${x(s * q.heel_deg).toFixed(1)} ${y(q.gz_m ?? 0).toFixed(1)}`)
            .join("");
        return (
          <g key={c.side}>
            <path
              d={`${line(inside)}L${x(s * (inside.at(-1)?.heel_deg ?? 0))} ${y(0)}L${x(0)} ${y(0)}Z`}
              fill="var(--water)"
              opacity="0.7"
            />
            <path d={line(c.points)} fill="none" stroke="currentColor" strokeWidth="2" />
            <Mark at={c.scupper_deg} side={s} x={x} text="scupper" top={y(0) - 46} foot={y(0)} quiet />
            <Mark at={c.flood_deg} side={s} x={x} text={`floods ${c.flood_deg?.toFixed(0)}°`} top={26} foot={y(0)} />
          </g>
        );
      })}
    </svg>
  );
}

type MarkProps = {
  at?: number;
  side: number;
  x: (d: number) => number;
  text: string;
  top: number;
  foot: number;
  quiet?: boolean;
};

function Mark({ at, side, x, text, top, foot, quiet }: MarkProps) {
  if (at === undefined || at > LIMIT) return null;
  const px = x(side * at);
  return (
    <g stroke={quiet ? "var(--quiet)" : "var(--color-accent)"}>
      <path d={`M${px} ${top}V${foot}`} strokeWidth={quiet ? 1 : 2} strokeDasharray={quiet ? "3 3" : undefined} />
      <text
        x={px + side * 4}
        y={top + 10}
        textAnchor={side > 0 ? "start" : "end"}
        fontSize="12"
        className="label-type"
        stroke="var(--color-base-100)"
        strokeWidth="3"
        paintOrder="stroke"
        fill={quiet ? "var(--quiet)" : "var(--loud-ink)"}
      >
        {text}
      </text>
    </g>
  );
}

export function rangeSentence(c: Curve, units: ReturnType<typeof unitsOf>): string {
  const flood = c.flood_deg === undefined ? "" : ` Water comes in at ${c.flood_deg.toFixed(0)}°, at the ${c.flood_at}.`;
  const falls = c.vanishes_deg === undefined ? "" : ` She no longer rights from ${c.vanishes_deg.toFixed(0)}°.`;
  return `To ${c.side} she rights up to ${c.range_deg.toFixed(0)}°, most at ${c.greatest_deg.toFixed(0)}° with an arm of ${units.small(c.greatest_gz_m)} ${units.smallUnit}.${flood}${falls}`;
}
