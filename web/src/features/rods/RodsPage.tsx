import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { type Bench, type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { unitsOf } from "../../domain/units";
import { BoatFromAbove, fromAbove } from "../../drawing/BoatFromAbove";
import { rodOutline } from "../../drawing/projection";
import { NumberFields, readOne, type Values } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useSettled } from "../../ui/useSettled";

type Rods = Schemas["RodsView"];

/** Who lies where, what is pulled first, what does not go in, and how high stands what stands. */
export default function RodsPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const units = unitsOf(me.units);
  const length = (key: string, label: string, hint: string) => ({
    key,
    label,
    hint,
    unit: units.lengthUnit,
    si: units.lengthSI,
  });
  const fields = [
    length("bridge", "Lowest bridge afloat", "clear height over the water; 0 for none"),
    length("road", "Lowest thing over the road", "branches, bridges; 0 for none"),
    length("keel", "Keel on the trailer", "over the ground"),
  ];
  const [values, setValues] = useState<Values>({ bridge: "0", road: "0", keel: (0.5 / units.lengthSI).toFixed(1) });
  const heights = useSettled(values, 400);
  const at = (key: string) => {
    const f = fields.find((x) => x.key === key);
    return (f && readOne(f, heights[key] ?? "")) ?? 0;
  };
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const query = { bridge_m: at("bridge"), road_m: at("road"), keel_m: at("keel") };
  const rods = useQuery(askBoat.rods(me.crew_id, boat, query, bench.data?.state.last?.at));
  if (bench.isPending || rods.isPending) return <Waiting text="Loading the rods…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (rods.isError) return <ErrorNote text={sayError(rods.error)} onRetry={() => rods.refetch()} />;
  const { places, out, said } = rods.data;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-5 p-4 lg:p-6">
        <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
          <div>
            <h1 className="label-type text-3xl">{bench.data.name}'s rods</h1>
            <p className="text-xl">{summary(rods.data)}</p>
          </div>
          {places.length > 0 && (
            <Link className="main-button inline-flex items-center" to={`/boats/${boat}/plan?only=rods`}>
              Plan the rods
            </Link>
          )}
        </div>
        {said.map((s) => (
          <p key={s} className="border-(--loud-ink) border-l-3 pl-3">
            {s}
          </p>
        ))}
        {places.length === 0 ? (
          <p>
            She has no bed, tubes or holders for rods yet.{" "}
            <Link className="underline" to={`/boats/${boat}/setup`}>
              Set how a place holds rods
            </Link>
            : then they lie tip by butt, and this page says what is pulled first.
          </p>
        ) : (
          <div className="max-w-4xl">
            <RodPlan bench={bench.data} rods={rods.data} />
          </div>
        )}
        <div className="grid items-start gap-6 sm:grid-cols-2 lg:grid-cols-3">
          {places.map((p) => (
            <RodPlace key={p.place_id} place={p} />
          ))}
        </div>
        {out.length > 0 && <Out out={out} />}
        <form
          className="grid gap-3 border-(--hair) border-t pt-3"
          aria-label="On the way"
          onSubmit={(e) => e.preventDefault()}
        >
          <h2 className="label-type text-2xl">On the way</h2>
          <NumberFields fields={fields} values={values} onChange={setValues} />
          <p className="quiet text-sm">The tip of what stands in a holder is taken at its full length, upright.</p>
        </form>
      </div>
    </main>
  );
}

function summary({ places, out }: Rods): string {
  const n = places.reduce((sum, p) => sum + p.rods.length, 0);
  const outside = out.length === 0 ? "" : `; ${out.length} ${out.length === 1 ? "lies" : "lie"} elsewhere`;
  if (places.length === 0) return out.length === 0 ? "" : `${howMany(out.length, "rod lies", "rods lie")} elsewhere.`;
  return `${n || "None"} in ${places.length === 1 ? "one place" : `${places.length} places`} for rods${outside}.`;
}

const FORMS = { bed: "Open bed", tubes: "Tubes", upright: "Holders" } as const;

function RodPlace({ place }: { place: Rods["places"][number] }) {
  return (
    <section aria-label={place.name}>
      <h2 className="label-type text-2xl leading-tight">{place.name}</h2>
      <p className="quiet text-sm">
        {FORMS[place.form]}. {place.said}
      </p>
      <ol className="pt-1">
        {place.rods.map((r) => (
          <li key={`${r.gear_id} ${r.pull}`} className="hairline-b flex min-h-11 items-center gap-3 py-1 leading-tight">
            <span className="figure-type w-6 text-xl">{r.pull}</span>
            <Link className="flex-1 hover:underline" to={`/gear/${r.gear_id}`}>
              {r.name}
              <span className="quiet block text-sm">
                {r.first ? "first hour, " : ""}
                {timesADay(r.uses_per_day)}
                {r.seconds > 0 ? `, in hand in ${r.seconds.toFixed(0)} s` : ""}
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </section>
  );
}

function timesADay(n: number): string {
  return n === 1 ? "once a day" : n < 1 ? "less than once a day" : `${Math.round(n)} times a day`;
}

function Out({ out }: { out: Rods["out"] }) {
  return (
    <section className="grid gap-1 border-(--hair) border-t pt-3" aria-label="Not in a rod place">
      <h2 className="label-type text-2xl">Not in a place for rods</h2>
      <ul className="grid gap-x-8 sm:grid-cols-2">
        {out.map((r) => (
          <li key={r.gear_id} className="hairline-b py-2 leading-tight">
            <Link className="hover:underline" to={`/gear/${r.gear_id}`}>
              <b>{r.name}</b>
            </Link>
            , {r.where}.{r.goes.length > 0 && <span className="block">Goes into {r.goes.join(", ")}.</span>}
            {r.why.map((w) => (
              <span key={w} className="quiet block text-sm">
                {w}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The rods to scale on the boat, with the number by which each is pulled. */
function RodPlan({ bench, rods }: { bench: Bench; rods: Rods }) {
  const { rect, at } = fromAbove(bench);
  const pull = new Map(rods.places.flatMap((p) => p.rods.map((r) => [r.gear_id, r] as const)));
  const lying = bench.state.stowage
    .filter((s) => pull.has(s.gear_id))
    .flatMap((s) => s.laid.map((l, i) => ({ l, key: `${s.gear_id} ${i}`, rod: pull.get(s.gear_id) })))
    .sort((a, b) => a.l.layer - b.l.layer);
  return (
    <BoatFromAbove bench={bench} label="Rods where they lie, from above">
      {bench.places.map((p) => (
        <rect
          key={p.id}
          {...rect(p)}
          fill="none"
          stroke="currentColor"
          strokeWidth={p.form === "box" ? 0.6 : 1.6}
          opacity={p.form === "box" ? 0.4 : 1}
        />
      ))}
      {lying.map(({ l, key, rod }) => {
        const butt = l.rod?.reversed ? l.corner_m[0] + l.size_m[0] - 0.12 : l.corner_m[0] + 0.12;
        const across = l.rod?.reversed ? l.rod.fore_y_m : (l.rod?.aft_y_m ?? [0, 0]);
        const [x, y] = at(butt, (across[0] + across[1]) / 2);
        return (
          <g key={key}>
            <polygon
              points={l.rod && rodOutline(at, l, l.rod)}
              fill={rod?.first ? "var(--water)" : "var(--color-base-100)"}
              stroke="currentColor"
              strokeWidth="1.1"
            />
            <text
              x={x}
              y={y + 4}
              textAnchor="middle"
              fontSize="11"
              className="figure-type"
              fill="currentColor"
              stroke="var(--color-base-100)"
              strokeWidth="2.5"
              paintOrder="stroke"
            >
              {rod?.pull}
            </text>
          </g>
        );
      })}
    </BoatFromAbove>
  );
}
