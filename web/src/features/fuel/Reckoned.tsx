import type { Schemas } from "../../api/client";
import { degrees, signed, trimWords, type Units } from "../../domain/units";
import type { FuelUnits } from "./fuelUnits";
import { WayChart } from "./WayChart";

type Answer = Schemas["FuelAnswer"];
type Props = { answer: Answer; plan: Schemas["FuelPlan"]; u: FuelUnits; units: Units; boat: string };

/** What the day takes: what to fill, how far that leads, and how she floats with it. */
export function Reckoned({ answer: a, plan, u, units, boat }: Props) {
  const add = a.tanks.reduce((sum, t) => sum + t.add_l, 0);
  return (
    <>
      <p role="status" className={`text-2xl leading-tight ${a.fits ? "" : "text-loud"}`} data-testid="fuel-headline">
        {a.headline}
      </p>
      <Tanks answer={a} u={u} />
      <dl className="grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-3">
        <Figure name="The way takes" value={u.litres(a.burn_l)} note={between(a, u)} />
        <Figure name="Kept" value={u.litres(a.reserve_l)} note={chances(a)} />
        <Figure name="Asked for" value={u.litres(a.need_l)} note="way, reserve, and what no pick-up reaches" />
        <Figure name="Range, filled" value={u.far(a.range_m)} note="in calm water, the reserve kept" />
        <Figure
          name="Turn for home by"
          value={a.return_m < a.way_m - 1 ? u.far(a.return_m) : "–"}
          note={
            a.return_m < a.way_m - 1
              ? `of ${u.far(a.way_m)}: from there the same way home takes all but the reserve`
              : "the whole way and back is within what is aboard"
          }
        />
        {a.cost > 0 && <Figure name="Costs" value={a.cost.toFixed(0)} note={`for ${u.litres(add)}`} />}
      </dl>
      {plan.line && plan.line.length > 1 && (
        <WayChart
          line={plan.line}
          ring={a.range_m / 2}
          turn={a.return_m < a.way_m - 1 ? a.return_m : undefined}
          u={u}
        />
      )}
      <Legs answer={a} plan={plan} u={u} />
      <Speeds answer={a} u={u} />
      <Others answer={a} u={u} units={units} />
      <Floats answer={a} units={units} u={u} boat={boat} />
      <p className="quiet text-sm">
        Fill with the motor off, nobody smoking, cans on the ground; leave the air gap, and air the boat before she is
        started. The law where you are decides.
      </p>
    </>
  );
}

function between(a: Answer, u: FuelUnits): string {
  if (!a.burn_between_l) return "by the table; no log says how sure";
  const [low = 0, high = 0] = a.burn_between_l;
  return `${u.litres(low)} to ${u.litres(high)}, by the log`;
}

/** How sure the reserve is, as far as the log says. */
function chances(a: Answer): string {
  if (a.keeps === undefined || a.reaches === undefined) return "at the end of the way";
  const of100 = (p: number) => Math.min(99, Math.max(1, Math.round(p * 100)));
  return `kept whole in ${of100(a.keeps)} of 100 such days by the log; home in ${of100(a.reaches)}`;
}

/** What another tank, a can or a lighter boat would do. */
function Others({ answer, u, units }: { answer: Answer; u: FuelUnits; units: Units }) {
  return (
    <table className="w-full">
      <caption className="label-type pb-1 text-left text-xl">What else would do</caption>
      <thead>
        <tr className="quiet text-left text-sm">
          <th className="font-normal">with</th>
          <th className="text-right font-normal">range</th>
          <th className="text-right font-normal">mass</th>
          <th className="text-right font-normal">trim</th>
        </tr>
      </thead>
      <tbody>
        {answer.others.map((o) => (
          <tr key={o.what} className="hairline-b">
            <td className="py-1">{o.what}</td>
            <td className="figure-type text-right text-lg">
              {u.far(o.range_m)} ({signedFar(o.range_m - answer.range_m, u)})
            </td>
            <td className="figure-type text-right text-lg">
              {signed(units.mass(o.kg))} {units.massUnit}
            </td>
            <td className="figure-type text-right text-lg">
              {o.trim_deg === undefined ? "–" : `${degrees(Math.abs(o.trim_deg))}° ${trimWords(o.trim_deg)}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function signedFar(m: number, u: FuelUnits): string {
  return `${m < 0 ? "−" : "+"}${u.far(Math.abs(m))}`;
}

function Figure({ name, value, note }: { name: string; value: string; note: string }) {
  return (
    <div>
      <dt className="label-type text-lg leading-tight">{name}</dt>
      <dd>
        <span className="figure-type text-3xl leading-tight">{value}</span>
        <br />
        <span className="quiet text-sm leading-tight">{note}</span>
      </dd>
    </div>
  );
}

/** Each tank as a bar: what is in it, what is filled, and what stays empty. */
function Tanks({ answer, u }: { answer: Answer; u: FuelUnits }) {
  return (
    <ul aria-label="Tanks" className="grid gap-2">
      {answer.tanks.map((t, i) => {
        const share = (l: number) => `${Math.min(100, (100 * l) / Math.max(t.capacity_l, 0.1))}%`;
        return (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: two tanks may have one name
            key={i}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 sm:grid-cols-[minmax(0,9rem)_minmax(0,1fr)_auto]"
          >
            <span className="truncate">{t.name}</span>
            <span
              className="relative block h-7 max-sm:order-last max-sm:col-span-2 border border-base-content bg-base-100"
              aria-hidden="true"
            >
              <span className="absolute inset-y-0 left-0 bg-(--water)" style={{ width: share(t.now_l) }} />
              <span
                className="absolute inset-y-0 border-base-content border-x bg-primary"
                style={{ left: share(t.now_l), width: share(t.add_l) }}
              />
            </span>
            <span className="figure-type text-lg">
              {t.add_l < 0.5 ? "nothing" : `+${u.litres(t.add_l)}`}
              <span className="quiet text-sm">
                {" "}
                on {u.litres(t.now_l)} of {u.litres(t.capacity_l)}
              </span>
            </span>
          </li>
        );
      })}
    </ul>
  );
}

function Legs({ answer, plan, u }: { answer: Answer; plan: Props["plan"]; u: FuelUnits }) {
  return (
    <table className="w-full">
      <thead>
        <tr className="quiet text-left text-sm">
          <th className="font-normal">leg</th>
          <th className="text-right font-normal">way</th>
          <th className="text-right font-normal">time</th>
          <th className="text-right font-normal">takes</th>
        </tr>
      </thead>
      <tbody>
        {plan.legs.map((l, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a leg is its place on the way
          <tr key={i} className="hairline-b">
            <td className="py-1">{l.name || `leg ${i + 1}`}</td>
            <td className="figure-type text-right text-lg">{u.far(l.distance_m)}</td>
            <td className="figure-type text-right text-lg">{minutes(l.distance_m / l.speed_m_s)}</td>
            <td className="figure-type text-right text-lg">{u.litres(answer.legs_l[i] ?? 0, 1)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What another speed would do: the whole way at each speed of her table. */
function Speeds({ answer, u }: { answer: Answer; u: FuelUnits }) {
  return (
    <table className="w-full">
      <caption className="label-type pb-1 text-left text-xl">The whole way at one speed</caption>
      <thead>
        <tr className="quiet text-left text-sm">
          <th className="font-normal">speed</th>
          <th className="text-right font-normal">time</th>
          <th className="text-right font-normal">takes</th>
          <th className="text-right font-normal">with its reserve</th>
        </tr>
      </thead>
      <tbody>
        {answer.speeds.map((s) => (
          <tr key={s.speed_m_s} className="hairline-b">
            <td className="figure-type py-1 text-lg">{u.fast(s.speed_m_s)}</td>
            <td className="figure-type text-right text-lg">{minutes(s.seconds)}</td>
            <td className="figure-type text-right text-lg">{u.litres(s.burn_l)}</td>
            <td className={`figure-type text-right text-lg ${s.fits ? "" : "text-loud"}`}>
              {u.litres(s.need_l)}
              {s.fits ? "" : ", too much"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function minutes(s: number): string {
  const min = Math.round(s / 60);
  return min < 60 ? `${min} min` : `${Math.floor(min / 60)} h ${String(min % 60).padStart(2, "0")}`;
}

const WHEN: Record<string, string> = { now: "as she is now", filled: "filled for it", home: "the way done" };

/** How she floats before filling, after it, and at the end of the way. */
function Floats({ answer, units, u, boat }: { answer: Answer; units: Units; u: FuelUnits; boat: string }) {
  return (
    <table className="w-full">
      <caption className="label-type pb-1 text-left text-xl">How {boat} floats, stowed as now</caption>
      <thead>
        <tr className="quiet text-left text-sm">
          <th className="font-normal">when</th>
          <th className="text-right font-normal">in her tanks</th>
          <th className="text-right font-normal">lowest freeboard</th>
          <th className="text-right font-normal">trim</th>
        </tr>
      </thead>
      <tbody>
        {answer.lies.map((l) => (
          <tr key={l.when} className="hairline-b">
            <td className="py-1">{WHEN[l.when] ?? l.when}</td>
            <td className="figure-type text-right text-lg">{u.litres(l.litres)}</td>
            {l.attitude ? (
              <>
                <td className="figure-type text-right text-lg">
                  {units.small(l.attitude.lowest.m)} {units.smallUnit}
                </td>
                <td className="figure-type text-right text-lg">
                  {degrees(Math.abs(l.attitude.trim_deg))}° {trimWords(l.attitude.trim_deg)}
                </td>
              </>
            ) : (
              <td colSpan={2} className="text-loud text-right">
                {l.why}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
