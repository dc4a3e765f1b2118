import { memo } from "react";
import type { Schemas } from "../../api/client";
import { clock } from "../../domain/clock";
import { degrees, heelWords, trimWords, type Units } from "../../domain/units";
import { AttitudePicture } from "../../drawing/AttitudePicture";
import { BoatFromAbove, fromAbove } from "../../drawing/BoatFromAbove";
import { useSize } from "../../ui/useSize";
import { type Answer, around, attitudeAt, phaseAt, valueAt } from "./moments";

const WIDE = 640; // pixels from which the pictures stand side by side

type Props = { view: Schemas["DayView"]; answer: Answer; at: number; units: Units };

/** The boat at a moment of the day: from above with who is where and what is full, and as she lies. */
export function BoatAt({ view, answer, at, units }: Props) {
  const boat = view.boat;
  const [box, { width }] = useSize<HTMLElement>();
  if (!boat) return null;
  const phase = answer.phases[phaseAt(answer, at)];
  const lies = attitudeAt(answer.moments, at);
  const found = around(answer.moments, at);
  if (!phase || !found) return null;
  const marks = phase.at.map((p) => ({ ...p, mark: view.people.find((q) => q.id === p.person)?.mark ?? "?" }));
  const catchKg = valueAt(answer.moments, at, (m) => m.catch_kg);
  const into = view.plan.phases.flatMap((p) => (p.catch ?? []).flatMap((c) => c.place_id ?? [])).join(" ");
  // Its height is said, so that the rest of the page need not be laid out anew while the moment
  // moves; a browser does so only for what is no item of a grid itself.
  const wide = width >= WIDE;
  const column = wide ? (width - 24) / 2 : width;
  const plan = fromAbove(boat);
  const above = (column * plan.height) / plan.width + 32;
  const beside = (column * 156) / 350 + 96;
  const height = Math.ceil(wide ? Math.max(above, beside) : above + beside + 8);
  return (
    <section
      ref={box}
      style={{ height }}
      aria-label={`${boat.name} at ${clock(at)}`}
      className={`grid content-start items-start gap-x-6 gap-y-2 contain-strict ${wide ? "grid-cols-2" : ""}`}
    >
      <div>
        <p className="label-type pb-1 text-lg uppercase tracking-wide">
          {boat.name} at {clock(at)}, {phase.name}
        </p>
        <BoatFromAbove bench={boat} label={`${boat.name} from above, with who is where`}>
          <Inside
            boat={boat}
            into={catchKg > 0.5 ? into : ""}
            fill={(i) => valueAt(answer.moments, at, (m) => m.fills[i] ?? 0)}
          />
          {marks.map((p, k) => {
            const shared = marks.slice(0, k).filter((q) => q.post === p.post).length;
            const [cx, cy] = fromAbove(boat).at(p.cg_m[0] ?? 0, (p.cg_m[1] ?? 0) - shared * 0.3);
            return (
              <g key={p.person}>
                <circle
                  cx={cx}
                  cy={cy}
                  r="14"
                  fill={p.seated ? "var(--color-base-100)" : "currentColor"}
                  stroke="currentColor"
                  strokeWidth="2.5"
                />
                <text
                  x={cx}
                  y={cy + 7}
                  textAnchor="middle"
                  fontSize="20"
                  className="label-type"
                  fill={p.seated ? "currentColor" : "var(--color-base-100)"}
                >
                  {p.mark}
                </text>
              </g>
            );
          })}
        </BoatFromAbove>
      </div>
      {lies ? (
        <div>
          <AttitudePicture lines={boat.lines} attitude={lies} people={marks} label={`How she lies at ${clock(at)}`} />
          <p className="figure-type text-lg">
            {units.small(lies.lowest.m)} {units.smallUnit} at the {lies.lowest.name}; trim{" "}
            {degrees(Math.abs(lies.trim_deg))}° {trimWords(lies.trim_deg)}; heel {degrees(Math.abs(lies.heel_deg))}°{" "}
            {heelWords(lies.heel_deg)}; {units.mass(valueAt(answer.moments, at, (m) => m.kg))} {units.massUnit} in all
            {catchKg > 0.5 && `, ${units.mass(catchKg)} of it caught`}
            {boat.plate_kg > 0 &&
              `; ${units.mass(valueAt(answer.moments, at, (m) => m.plate_kg))} of ${units.mass(boat.plate_kg)} ${units.massUnit} against the plate`}
            {phase.fetching_min >= 1 && `; ${phase.fetching_min.toFixed(0)} min of fetching in this phase`}
          </p>
        </div>
      ) : (
        <p className="self-center border border-(--hair) p-4">
          {phase.ashore ? "She is not afloat yet, or any more." : (found[0].why ?? "She does not float then.")}
        </p>
      )}
    </section>
  );
}

type InsideProps = { boat: NonNullable<Schemas["DayView"]["boat"]>; into: string; fill: (tank: number) => number };

/** Her places; those with fish in them are filled. */
const Places = memo(function Places({ boat, into }: { boat: InsideProps["boat"]; into: string }) {
  const { rect } = fromAbove(boat);
  return boat.places.map((p) => (
    <rect
      key={p.id}
      {...rect(p)}
      fill={into.includes(p.id) ? "var(--color-secondary)" : "none"}
      stroke="var(--quiet)"
      strokeWidth="1.4"
    />
  ));
});

/** Her places, and her tanks as full as they are. */
function Inside({ boat, into, fill }: InsideProps) {
  const { rect } = fromAbove(boat);
  return (
    <>
      <Places boat={boat} into={into} />
      {boat.tanks.map((t, i) => {
        const r = rect(t);
        const share = Math.min(1, Math.max(0, fill(i)));
        return (
          <g key={t.name}>
            <rect
              x={r.x}
              y={r.y}
              height={r.height}
              width={r.width * share}
              fill="var(--color-secondary)"
              fillOpacity="0.8"
            />
            <rect {...r} fill="none" stroke="currentColor" strokeWidth="1.8" strokeDasharray="8 4" />
          </g>
        );
      })}
    </>
  );
}
