import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askTrip } from "../../api/askTrip";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Checks, Choice, Loose, type NumberField, Page, Part, readOne, SaveForm, written } from "../../ui/Form";
import { type Column, Rows, rowOf, valuesOf } from "../../ui/Rows";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";
import { useTitle } from "../../ui/useTitle";
import { BringTrack } from "./BringTrack";
import { type FuelUnits, fuelUnits } from "./fuelUnits";
import { Reckoned } from "./Reckoned";

type View = Schemas["FuelView"];
type Plan = Schemas["FuelPlan"];

/** What a trip's way takes in fuel, what is kept, and what goes into each tank. */
export default function FuelPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const view = useQuery(askTrip.fuel(me.crew_id, trip));
  const trips = useQuery(askTrip.trips(me.crew_id));
  const name = trips.data?.find((t) => t.id === trip)?.name;
  useTitle(name && `Fuel, ${name}`);
  if (view.isPending) return <Waiting text="Loading the trip's fuel…" />;
  if (view.isError) return <ErrorNote text={sayError(view.error)} onRetry={() => view.refetch()} />;
  return (
    <Page
      title={`Fuel for ${name ?? "the trip"}`}
      intro="An estimate. Gauges lie, and sea and wind change what she takes."
    >
      <Planning key={`${trip} ${view.data.boat?.id}`} me={me} trip={trip} view={view.data} />
    </Page>
  );
}

function legColumns(u: FuelUnits): Column[] {
  return [
    { kind: "text", key: "name", label: "Leg" },
    { kind: "number", key: "distance_m", label: "Distance", unit: u.way, si: u.waySI },
    { kind: "number", key: "speed_m_s", label: "Speed", unit: u.speed, si: u.speedSI },
    { kind: "number", key: "factor", label: "Burn, 1 is calm", unit: "×", si: 1 },
  ];
}

function canColumns(u: FuelUnits): Column[] {
  return [
    { kind: "text", key: "name", label: "Can" },
    { kind: "number", key: "capacity_l", label: "Holds", unit: u.volume, si: u.volumeSI },
    { kind: "number", key: "now_l", label: "In it now", unit: u.volume, si: u.volumeSI },
  ];
}

function Planning({ me, trip, view }: { me: Membership; trip: string; view: View }) {
  const queries = useQueryClient();
  const u = fuelUnits(unitsOf(me.units), view.boat?.sea);
  const scope = `${me.crew_id}.fuel.${trip}.${me.units}.${u.way}`;
  const legs = legColumns(u);
  const cans = canColumns(u);
  const fixed: NumberField = { key: "fixed_l", label: "Litres kept", unit: u.volume, si: u.volumeSI };
  const [legRows, setLegs] = useDraft(
    `${scope}.legs`,
    view.plan.legs.map((l) => rowOf(legs, { ...l, factor: l.factor || 1 })),
  );
  const [canRows, setCans] = useDraft(
    `${scope}.cans`,
    (view.plan.cans ?? []).map((c) => rowOf(cans, c)),
  );
  const [school, setSchool] = useDraft<string>(`${scope}.school`, view.plan.school);
  const [kept, setKept] = useDraft(`${scope}.fixed`, written(fixed, view.plan.fixed_l ?? 15));
  const [percent, setPercent] = useDraft(`${scope}.percent`, String(view.plan.percent || 30));
  const [price, setPrice] = useDraft(
    `${scope}.price`,
    view.plan.price_per_l ? String(Number((view.plan.price_per_l * u.volumeSI).toPrecision(6))) : "",
  );
  const [line, setLine] = useDraft<number[][]>(`${scope}.line`, view.plan.line ?? []);
  const [learned, setLearned] = useDraft<boolean>(`${scope}.learned`, view.plan.learned ?? false);
  const plan = (): Plan => ({
    legs: legRows.map((r) => valuesOf(legs, r) as unknown as Plan["legs"][number]),
    cans: canRows.map((r) => valuesOf(cans, r) as unknown as NonNullable<Plan["cans"]>[number]),
    school: school as Plan["school"],
    fixed_l: readOne(fixed, kept) ?? 0,
    percent: readOne({ unit: "%", si: 1 }, percent) ?? 0,
    price_per_l: (readOne({ unit: "", si: 1 }, price) ?? 0) / u.volumeSI,
    learned,
    line: line as NonNullable<Plan["line"]>,
  });
  const leg = (name: string, t: Schemas["Track"]) => ({
    ...freshLeg(legs, legRows.length, view),
    ...rowOf(legs.slice(0, 2), { name: name || "leg", distance_m: t.distance_m }),
  });
  const asked = useSettled(
    attempt(() => JSON.stringify(plan())),
    250,
  );
  const tried = useQuery(askTrip.fuelTried(me.crew_id, trip, asked));
  const shown = tried.data ?? view;
  const mayChange = may(me, "change_gear");
  const fields = (
    <>
      <h2 className="label-type text-xl">The way</h2>
      <Rows
        name="a leg"
        columns={legs}
        rows={legRows}
        fresh={freshLeg(legs, legRows.length, view)}
        onChange={setLegs}
      />
      <BringTrack
        me={me}
        u={u}
        onOut={(t) => {
          setLegs([...legRows, leg(t.name, t)]);
          setLine(t.line);
        }}
        onThereAndBack={(t) => {
          setLegs([leg("out", t), leg("home", t)]);
          setLine(t.line);
        }}
      />
      {line.length > 0 && (
        <button
          type="button"
          className="min-h-11 cursor-pointer justify-self-start underline"
          onClick={() => setLine([])}
        >
          Take the drawn way off
        </button>
      )}
      <h2 className="label-type text-xl">What is kept</h2>
      <Choice label="Reckoned as" value={school} options={WORDS.fuel_schools} onChange={setSchool} />
      {school === "fixed" && <Loose label="Kept at the end" unit={u.volume} value={kept} onChange={setKept} />}
      {school === "percent" && <Loose label="Share of the way" unit="%" value={percent} onChange={setPercent} />}
      {shown.learned && (
        <Checks
          all={[["learned", `Reckon with the log: ${learnedWords(shown.learned)}`]]}
          on={() => learned}
          set={(_, on) => setLearned(on)}
        />
      )}
      <Loose label={`Price of a ${u.volume === "L" ? "litre" : "gallon"}`} value={price} onChange={setPrice} unit="" />
      <h2 className="label-type text-xl">Cans that go along</h2>
      <Rows
        name="a can"
        columns={cans}
        rows={canRows}
        fresh={rowOf(cans, { name: "can", capacity_l: 10, now_l: 0 })}
        onChange={setCans}
      />
    </>
  );
  return (
    <div className="grid items-start gap-6 lg:grid-cols-[24rem_minmax(0,1fr)]">
      <div className="grid gap-6 max-lg:order-2">
        {mayChange ? (
          <SaveForm
            name="The way and the reserve"
            draft={scope}
            button="Keep it with the trip"
            save={() =>
              api.put("/api/crews/{crew}/trips/{trip}/fuel", {
                params: { path: { crew: me.crew_id, trip } },
                body: { plan: plan(), version: view.version },
              })
            }
            onSaved={() => freshGear(queries)}
          >
            {fields}
          </SaveForm>
        ) : (
          <form aria-label="The way and the reserve, tried" className="grid gap-3" onSubmit={(e) => e.preventDefault()}>
            {fields}
          </form>
        )}
        {view.boat && <Takes key={view.boat.version} me={me} boat={view.boat} u={u} />}
      </div>
      <div className="grid gap-4" aria-busy={tried.isFetching}>
        {tried.isError && (
          <p role="alert" className="text-loud">
            {sayError(tried.error)}
          </p>
        )}
        {shown.lacks.length > 0 ? (
          <section aria-label="What is missing" className="grid gap-1 border border-(--hair) p-4">
            <h2 className="label-type text-2xl">Not reckoned yet</h2>
            {shown.lacks.map((l) => (
              <p key={l}>{l}</p>
            ))}
            {!view.boat && (
              <Link className="underline" to="/trips">
                To the trips
              </Link>
            )}
          </section>
        ) : (
          shown.answer && (
            <Reckoned
              answer={shown.answer}
              plan={shown.plan}
              u={u}
              units={unitsOf(me.units)}
              boat={shown.boat?.name ?? "she"}
            />
          )
        )}
      </div>
    </div>
  );
}

function attempt<T>(make: () => T): T | undefined {
  try {
    return make();
  } catch {
    return undefined; // a number is half typed
  }
}

/** Out and home are the usual legs; their speed is one that her table knows. */
function freshLeg(columns: Column[], n: number, view: View) {
  const rates = view.boat?.rates ?? [];
  const speed = rates[Math.floor(rates.length / 2)]?.speed_m_s ?? 10;
  return rowOf(columns, { name: ["out", "home"][n] ?? "between", distance_m: 10_000, speed_m_s: speed, factor: 1 });
}

function learnedWords(l: Schemas["LearnedRates"]): string {
  return `she takes ${l.factor.toFixed(2)} of what the table says (${l.low.toFixed(2)} to ${l.high.toFixed(2)}, by ${howMany(l.trips, "trip")})`;
}

/** What her motor takes at some speeds: the crew's own table. */
function Takes({ me, boat, u }: { me: Membership; boat: Schemas["BoatFuel"]; u: FuelUnits }) {
  const queries = useQueryClient();
  const columns: Column[] = [
    { kind: "number", key: "speed_m_s", label: "At", unit: u.speed, si: u.speedSI },
    { kind: "number", key: "l_per_h", label: "Takes", unit: `${u.volume}/h`, si: u.volumeSI },
  ];
  const scope = `${me.crew_id}.rates.${boat.id}.${me.units}.${u.way}`;
  const [rows, setRows] = useDraft(
    `${scope}.rows`,
    boat.rates.map((r) => rowOf(columns, r)),
  );
  if (!may(me, "change_boat")) return null;
  return (
    <Part title={`What ${boat.name}'s motor takes`}>
      <p className="quiet text-sm">
        Read off a gauge or worked out from fillings, at two speeds or more; in between it is drawn straight.
      </p>
      <SaveForm
        name="What her motor takes"
        draft={scope}
        button="Keep the table"
        save={() =>
          api.put("/api/crews/{crew}/boats/{boat}/rates", {
            params: { path: { crew: me.crew_id, boat: boat.id } },
            body: {
              rates: rows.map((r) => valuesOf(columns, r) as unknown as Schemas["RateInput"]),
              version: boat.version,
            },
          })
        }
        onSaved={() => {
          queries.invalidateQueries({ queryKey: ["boat", boat.id] });
          freshGear(queries);
        }}
      >
        <Rows
          name="a speed"
          columns={columns}
          rows={rows}
          fresh={rowOf(columns, { speed_m_s: 20 * u.speedSI, l_per_h: 10 * u.volumeSI })}
          onChange={setRows}
        />
      </SaveForm>
    </Part>
  );
}
