import type { Bench, Figures, Schemas } from "../api/client";
import { degrees, heelWords, signed, trimWords, type Units } from "../domain/units";
import { BoatFromAbove, fromAbove } from "../drawing/BoatFromAbove";
import { rodOutline } from "../drawing/projection";

/** A boat as she is and as she would be: a plan, or an arrangement to come back to. */
type Change = Pick<Schemas["PlanView"], "now" | "then" | "stowage">;

type Props = { bench: Bench; plan: Change; kept?: Change; units: Units };

/** How she is and how she would be, side by side, drawn and in figures; or two plans. */
export function Compared({ bench, plan, kept, units }: Props) {
  const before = kept ? whole(bench, kept) : bench.state.stowage;
  const after = whole(bench, plan);
  const moved = new Set(
    after.filter((s) => s.place_id !== before.find((b) => b.gear_id === s.gear_id)?.place_id).map((s) => s.gear_id),
  );
  const first = kept ? "The plan kept" : "Now";
  const second = kept ? "This plan" : "Planned";
  return (
    <section aria-label="Now and then" className="grid gap-4">
      <div className="grid gap-4 sm:grid-cols-2">
        <Picture bench={bench} title={first} stowage={before} moved={moved} />
        <Picture bench={bench} title={second} stowage={after} moved={moved} />
      </div>
      <table className="w-full">
        <thead>
          <tr className="quiet text-left text-sm">
            <th className="font-normal">a day, at rest</th>
            <th className="text-right font-normal">{first.toLowerCase()}</th>
            <th className="text-right font-normal">{second.toLowerCase()}</th>
            <th className="text-right font-normal">change</th>
          </tr>
        </thead>
        <tbody>
          {rows(kept?.then ?? plan.now, plan.then, units).map(([name, now, then, change]) => (
            <tr key={name} className="hairline-b">
              <td className="label-type py-1 text-lg">{name}</td>
              <td className="figure-type text-right text-lg">{now}</td>
              <td className="figure-type text-right text-xl">{then}</td>
              <td className="figure-type text-right text-lg">{change}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** All that is aboard with a plan: what it did not plan stays where it is. */
function whole(bench: Bench, plan: Change): Schemas["Stowed"][] {
  const planned = new Map(plan.stowage.map((s) => [s.gear_id, s]));
  const rest = bench.state.stowage.filter((s) => !planned.has(s.gear_id));
  return [...rest, ...plan.stowage];
}

function rows(now: Figures, then: Figures, units: Units): [string, string, string, string][] {
  const minutes = (f: Figures) => `${f.rummage_min_per_day.toFixed(1)} min`;
  const list: [string, string, string, string][] = [
    [
      "Rummage",
      minutes(now),
      minutes(then),
      `${signed((then.rummage_min_per_day - now.rummage_min_per_day).toFixed(1).replace("-", "−"))} min`,
    ],
  ];
  const a = now.attitude;
  const b = then.attitude;
  if (a && b) {
    list.push(
      [
        "Lowest freeboard",
        `${units.small(a.lowest.m)} ${units.smallUnit}`,
        `${units.small(b.lowest.m)} ${units.smallUnit}`,
        `${difference(units.small(a.lowest.m), units.small(b.lowest.m), units.system === "us" ? 2 : 0)} ${units.smallUnit}`,
      ],
      [
        "Heel",
        heel(a.heel_deg),
        heel(b.heel_deg),
        `${difference(degrees(Math.abs(a.heel_deg)), degrees(Math.abs(b.heel_deg)), 1)}°`,
      ],
      ["Trim", trim(a.trim_deg), trim(b.trim_deg), `${signed(degrees(b.trim_deg - a.trim_deg))}°`],
    );
  }
  list.push([
    "Gear aboard",
    `${units.mass(now.gear_kg)} ${units.massUnit}`,
    `${units.mass(then.gear_kg)} ${units.massUnit}`,
    "",
  ]);
  return list;
}

/** The change between two figures as they are shown, so that it is what one reads off them. */
function difference(now: string, then: string, digits: number): string {
  const n = (text: string) => Number(text.replace("−", "-"));
  return signed((n(then) - n(now)).toFixed(digits).replace("-", "−"));
}

const heel = (d: number) => `${degrees(Math.abs(d))}° ${heelWords(d)}`;
const trim = (d: number) => `${degrees(Math.abs(d))}° ${trimWords(d)}`;

type PictureProps = { bench: Bench; title: string; stowage: Schemas["Stowed"][]; moved: Set<string> };

/** What lies where, from above; what moves is filled. */
function Picture({ bench, title, stowage, moved }: PictureProps) {
  const { at, rect } = fromAbove(bench);
  const laid = stowage.flatMap((s) =>
    s.laid.map((l, i) => ({
      key: `${s.gear_id} ${i}`,
      moves: moved.has(s.gear_id),
      top: l.corner_m[2] + l.size_m[2],
      ...l,
    })),
  );
  return (
    <figure>
      <figcaption className="label-type text-lg">{title}</figcaption>
      <BoatFromAbove bench={bench} label={`${title}: ${bench.name} from above, what moves is filled`}>
        {bench.places.map((q) => (
          <rect key={q.id} {...rect(q)} fill="none" stroke="var(--hair)" strokeWidth="1.6" />
        ))}
        {laid
          .sort((a, b) => a.top - b.top)
          .map((l) => {
            const look = {
              fill: l.moves ? "var(--water)" : "var(--color-base-100)",
              stroke: "currentColor",
              strokeWidth: l.moves ? 2.4 : 1.1,
            };
            return l.rod ? (
              <polygon key={l.key} points={rodOutline(at, l, l.rod)} {...look} />
            ) : (
              <rect key={l.key} {...rect(l)} {...look} />
            );
          })}
      </BoatFromAbove>
    </figure>
  );
}
