import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { api, type Bench, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Choice, type NumberField, NumberFields, read, SaveForm, typed } from "../../ui/Form";
import { lengthField, massField } from "../../ui/fields";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { TrailerDrawing } from "./TrailerDrawing";

export type Road = Schemas["Road"];
type Trailer = NonNullable<Road["trailer"]>;

export default function RoadPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const road = useQuery(askBoat.road(me.crew_id, boat));
  const [editing, setEditing] = useState(false);
  if (bench.isPending || road.isPending) return <Waiting text="Working out the road…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (road.isError) return <ErrorNote text={sayError(road.error)} onRetry={() => road.refetch()} />;
  const r = road.data;
  const units = unitsOf(me.units);
  const mayChange = may(me, "change_boat");
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-6 p-4 lg:p-6">
        <div>
          <h1 className="label-type text-3xl">{bench.data.name} on the road</h1>
          <p className={`text-xl ${r.trailer && !r.met ? "text-loud" : ""}`} data-testid="headline">
            {headline(r, units)}
          </p>
        </div>
        <TakeOut me={me} boat={bench.data.id} r={r} units={units} />
        {r.trailer && !editing ? (
          <>
            <TrailerDrawing bench={bench.data} road={r} trailer={r.trailer} units={units} />
            <div className="grid items-start gap-6 lg:grid-cols-2">
              <Loads r={r} units={units} />
              <Checklist r={r} />
            </div>
            {mayChange && (
              <button type="button" className="plain-button justify-self-start" onClick={() => setEditing(true)}>
                Change the trailer
              </button>
            )}
          </>
        ) : mayChange ? (
          <TrailerForm me={me} bench={bench.data} r={r} units={units} onSaved={() => setEditing(false)} />
        ) : (
          <p className="quiet">No trailer was entered. A skipper or an owner may enter one.</p>
        )}
        <Things me={me} boat={bench.data.id} r={r} units={units} />
      </div>
    </main>
  );
}

const NAMES: Record<string, string> = {
  total: "All together",
  axle: "On the axle",
  tyre: "On each tyre",
  hitch: "On the hitch",
  share: "Share on the hitch",
  brakes: "Without brakes",
  straps: "Straps",
};

function headline(r: Road, units: Units): string {
  if (!r.trailer) return "Enter her trailer: then what may ride in her shows here.";
  const bad = r.rows.filter((q) => !q.met).map((q) => (NAMES[q.key] ?? q.key).toLowerCase());
  const move =
    Math.abs(r.move_m) > 0.005
      ? ` Shift her ${units.side(Math.abs(r.move_m))} ${units.sideUnit} ${r.move_m > 0 ? "forward" : "aft"} on the trailer, or move what is heavy.`
      : "";
  if (r.met) return "Within every plate and the crew's own limit.";
  return `Not right: ${bad.join(", ")}.${move}`;
}

const FEW = 6;

/** What to put in the car, what helps most first, by one press. */
function TakeOut({ me, boat, r, units }: { me: Membership; boat: string; r: Road; units: Units }) {
  const queries = useQueryClient();
  const out = r.take_out.flatMap((id) => r.things.find((t) => t.gear_id === id) ?? []);
  const take = useMutation({
    mutationFn: async () => {
      for (const t of out)
        await api.put("/api/crews/{crew}/boats/{boat}/rides/{gear}", {
          params: { path: { crew: me.crew_id, boat, gear: t.gear_id } },
          body: { rides: "car" },
        });
    },
    onSettled: () => queries.invalidateQueries({ queryKey: askBoat.road(me.crew_id, boat).queryKey }),
  });
  if (out.length === 0) return null;
  const kg = out.reduce((sum, t) => sum + t.kg, 0);
  const more = out.length > FEW ? ` and ${out.length - FEW} more` : "";
  return (
    <section aria-label="To the car" className="flex flex-wrap items-center gap-x-4 gap-y-2">
      <p className="min-w-60 flex-1">
        Take out {units.mass(kg)} {units.massUnit}:{" "}
        {out
          .slice(0, FEW)
          .map((t) => `${t.name}, ${units.mass(t.kg, 0)} ${units.massUnit}`)
          .join("; ")}
        {more}.{!r.enough && " That alone does not put it right: look at the loads below."}
      </p>
      {may(me, "move") && (
        <button type="button" className="main-button" disabled={take.isPending} onClick={() => take.mutate()}>
          {out.length === 1 ? "Put it in the car" : `Put ${out.length === 2 ? "both" : `all ${out.length}`} in the car`}
        </button>
      )}
      {take.error && (
        <p role="alert" className="text-loud">
          {sayError(take.error)}
        </p>
      )}
    </section>
  );
}

function Loads({ r, units }: { r: Road; units: Units }) {
  const text = (key: string, v: number) =>
    key === "share" ? `${(v * 100).toFixed(1)} %` : `${units.mass(v, 0)} ${units.massUnit}`;
  return (
    <section aria-label="Loads">
      <h2 className="label-type text-2xl">Loads</h2>
      <ul>
        {r.rows.map((q) => (
          <li
            key={q.key}
            className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-2 py-2 sm:grid-cols-[8.5rem_6rem_minmax(0,1fr)]"
          >
            <span className="label-type text-lg">{NAMES[q.key]}</span>
            <span className={`figure-type text-xl ${q.met ? "" : "text-loud"}`}>{text(q.key, q.value)}</span>
            <span className="col-span-2 text-sm sm:col-span-1">
              {!q.met && <b className="text-loud">out of limits · </b>}
              {q.low !== undefined && q.low > 0 && `at least ${text(q.key, q.low)} · `}
              {q.high !== undefined && `at most ${text(q.key, q.high)} · `}
              <span className="quiet">{q.sentence}</span>
            </span>
          </li>
        ))}
      </ul>
      <p className="quiet pt-2 text-sm">{r.cautions.join(" ")}</p>
    </section>
  );
}

function Checklist({ r }: { r: Road }) {
  return (
    <section aria-label="Before driving off">
      <h2 className="label-type text-2xl">Before driving off</h2>
      <ul>
        {r.checklist.map((line) => (
          <li key={line} className="hairline-b">
            <label className="flex min-h-11 items-center gap-3 py-1">
              <input type="checkbox" className="checkbox shrink-0" />
              {line}
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}

const RIDES = WORDS.rides;

function Things({ me, boat, r, units }: { me: Membership; boat: string; r: Road; units: Units }) {
  const queries = useQueryClient();
  const ride = useMutation({
    mutationFn: ({ gear, rides }: { gear: string; rides: "boat" | "car" | "van" }) =>
      api.put("/api/crews/{crew}/boats/{boat}/rides/{gear}", {
        params: { path: { crew: me.crew_id, boat, gear } },
        body: { rides },
      }),
    onSettled: () => queries.invalidateQueries({ queryKey: askBoat.road(me.crew_id, boat).queryKey }),
  });
  const mayChange = may(me, "move");
  const things = [...r.things].sort((a, b) => b.kg - a.kg);
  return (
    <section aria-label="Where each thing rides">
      <h2 className="label-type text-2xl">Where each thing rides</h2>
      <p className="quiet">
        {units.mass(r.car_kg)} {units.massUnit} in the car, {units.mass(r.van_kg)} {units.massUnit} in the van. Heaviest
        first; at the ramp it all goes to its place.
      </p>
      {ride.error && (
        <p role="alert" className="text-loud">
          {sayError(ride.error)}
        </p>
      )}
      <ul className="grid gap-x-8 lg:grid-cols-2">
        {things.map((t) => (
          <li key={t.gear_id} className="hairline-b flex items-center justify-between gap-3 py-1.5">
            <span className="min-w-0">
              {t.name} <span className="quiet text-sm">{t.place}</span>
              {t.should_ride_elsewhere && <b className="text-loud text-sm"> take it out</b>}
            </span>
            <span className="flex shrink-0 items-center gap-3">
              <span className="figure-type w-16 text-right">
                {units.mass(t.kg, 1)} {units.massUnit}
              </span>
              <select
                className="select min-h-11 w-32 text-base"
                aria-label={`${t.name} rides`}
                value={t.rides}
                disabled={!mayChange || ride.isPending}
                onChange={(e) => ride.mutate({ gear: t.gear_id, rides: e.target.value as "boat" | "car" | "van" })}
              >
                {RIDES.map(([v, text]) => (
                  <option key={v} value={v}>
                    {text}
                  </option>
                ))}
              </select>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const SCHOOLS = WORDS.trailer_schools;

function trailerFields(units: Units): NumberField[] {
  const kg = massField(units);
  const m = lengthField(units);
  return [
    kg("kg", "Trailer, empty"),
    m("cg_m", "Trailer's own centre", "ahead of her transom's foot"),
    m("axle_m", "Axle", "ahead of her transom's foot; the middle of two"),
    m("hitch_m", "Ball", "ahead of her transom's foot"),
    kg("rated_kg", "Plate: all together", "0 where not known"),
    kg("axle_rated_kg", "Plate: axle"),
    kg("hitch_rated_kg", "Hitch limit", "least of coupling, ball and car"),
    { key: "tyres", label: "Tyres", unit: "", si: 1 },
    kg("tyre_rated_kg", "Each tyre carries"),
    { key: "tyre_pressure_bar", label: "Pressure, cold", unit: units.pressureUnit, si: units.pressureSI / 1e5 },
    kg("braked_over_kg", "Brakes asked for over", "where it is registered"),
    { key: "straps", label: "Straps", unit: "", si: 1 },
    kg("strap_rated_kg", "Each strap holds"),
  ];
}

const START: Trailer = {
  kg: 200,
  cg_m: 2.2,
  axle_m: 1.7,
  hitch_m: 6.6,
  rated_kg: 0,
  axle_rated_kg: 0,
  hitch_rated_kg: 0,
  tyres: 2,
  tyre_rated_kg: 0,
  tyre_pressure_bar: 0,
  braked_over_kg: 0,
  brakes: false,
  straps: 2,
  strap_rated_kg: 0,
  school: "boat",
};

type TrailerFormProps = { me: Membership; bench: Bench; r: Road; units: Units; onSaved: () => void };

function TrailerForm({ me, bench, r, units, onSaved }: TrailerFormProps) {
  const queries = useQueryClient();
  const t = r.trailer ?? START;
  const fields = trailerFields(units);
  const scope = `${me.crew_id}.trailer.${bench.id}.${me.units}`;
  const [values, setValues] = useDraft(`${scope}.values`, typed(fields, t as unknown as Record<string, number>));
  const [brakes, setBrakes] = useDraft(`${scope}.brakes`, t.brakes);
  const [school, setSchool] = useDraft(`${scope}.school`, t.school);
  const save = async () => {
    const n = read(fields, values);
    await api.put("/api/crews/{crew}/boats/{boat}/trailer", {
      params: { path: { crew: me.crew_id, boat: bench.id } },
      body: {
        ...t,
        ...n,
        tyres: Math.round(n.tyres ?? 0),
        straps: Math.round(n.straps ?? 0),
        brakes,
        school,
        version: r.version,
      },
    });
    await queries.invalidateQueries();
    onSaved();
  };
  return (
    <SaveForm draft={scope} name="Her trailer" button="Save the trailer" save={save}>
      <p className="quiet">Read the plates; measure along the boat from the foot of her transom, as she sits on it.</p>
      <NumberFields fields={fields} values={values} onChange={setValues} />
      <div className="grid gap-4 sm:grid-cols-3">
        <Choice label="Hitch load limit of the crew" value={school} options={SCHOOLS} onChange={setSchool} />
        <label className="flex min-h-11 items-end gap-2 pb-2">
          <input type="checkbox" className="checkbox" checked={brakes} onChange={(e) => setBrakes(e.target.checked)} />
          it has brakes
        </label>
      </div>
    </SaveForm>
  );
}
