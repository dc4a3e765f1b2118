import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { Choice, Page, readOne } from "../../ui/Form";
import { ErrorNote, Faults, Waiting } from "../../ui/States";

type Item = Pick<Schemas["ToWeigh"], "gear_id" | "name" | "count" | "kg" | "held_kg" | "where" | "moves_m" | "version">;
type Scale = Schemas["ScaleView"];

/** Weighing: the scale at the left, and what matters most to the balance next. */
export default function WeighPage({ me }: { me: Membership }) {
  const [params, setParams] = useSearchParams();
  const boat = params.get("boat") ?? me.boats[0]?.id ?? "";
  const wanted = params.get("gear") ?? "";
  const crew = me.crew_id;
  const list = useQuery(askGear.unweighed(crew, boat));
  if (!boat)
    return (
      <Page
        title="Weigh"
        intro="Weighing begins with what matters most to a boat's balance, so there must be a boat first."
      >
        <Link className="main-button flex items-center justify-self-start" to="/boats/new">
          Set up a boat
        </Link>
      </Page>
    );
  if (list.isPending) return <Waiting text="Loading what to weigh…" />;
  if (list.isError) return <ErrorNote text={sayError(list.error)} onRetry={() => list.refetch()} />;
  const units = unitsOf(me.units);
  const choose = (gear: string) => setParams({ boat, ...(gear ? { gear } : {}) }, { replace: true });
  const current = list.data.find((x) => x.gear_id === wanted);
  return (
    <Page title="Weigh">
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[22rem_1fr]">
        {wanted && !current ? (
          <Other me={me} gear={wanted} units={units} onNext={() => choose(list.data[0]?.gear_id ?? "")} />
        ) : (
          <Weighing
            key={current?.gear_id ?? list.data[0]?.gear_id ?? "none"}
            me={me}
            item={current ?? list.data[0]}
            units={units}
            onNext={() => choose("")}
          />
        )}
        <section aria-label="Unweighed" className="grid content-start gap-2">
          <div className="max-w-xs">
            <Choice
              label="What matters most to"
              value={boat}
              options={me.boats.map((b) => [b.id, b.name] as const)}
              onChange={(b) => setParams({ boat: b }, { replace: true })}
            />
          </div>
          <p className="quiet">
            {list.data.length === 0
              ? "Nothing is left to weigh."
              : `${list.data.length} never weighed. The figure is how far the lowest corner may be off because of it.`}
          </p>
          <ol>
            {list.data.map((x) => (
              <li key={x.gear_id} className="hairline-b">
                <button
                  type="button"
                  aria-pressed={(current ?? list.data[0])?.gear_id === x.gear_id}
                  className="grid min-h-12 w-full cursor-pointer grid-cols-[1fr_5rem_5rem] items-center gap-3 px-2 py-1 text-left hover:bg-base-200 aria-pressed:bg-base-200"
                  onClick={() => choose(x.gear_id)}
                >
                  <span className="leading-tight">
                    {x.name}
                    {x.count > 1 ? ` × ${x.count}` : ""}
                    <span className="quiet block text-sm">{x.where}</span>
                  </span>
                  <span className="figure-type">
                    {units.mass(x.kg * x.count, 1)} {units.massUnit} ?
                  </span>
                  <span className="figure-type">{moves(x.moves_m, units)}</span>
                </button>
              </li>
            ))}
          </ol>
        </section>
      </div>
    </Page>
  );
}

/** How far the lowest corner may be off; what is under half a millimetre is not told in figures. */
function moves(m: number, units: Units): string {
  if (m <= 0) return "ashore";
  return m < 0.0005 ? "hardly" : `± ${units.small(m)} ${units.smallUnit}`;
}

/** A piece that was weighed before, weighed again. */
function Other({ me, gear, units, onNext }: { me: Membership; gear: string; units: Units; onNext: () => void }) {
  const g = useQuery(askGear.gear(me.crew_id, gear));
  if (g.isPending) return <Waiting text="Loading…" />;
  if (g.isError) return <ErrorNote text={sayError(g.error)} />;
  const item = {
    gear_id: g.data.id,
    name: g.data.name,
    count: g.data.count,
    kg: g.data.kg,
    held_kg: g.data.total_kg - g.data.kg * g.data.count,
    where: g.data.spot.text,
    moves_m: 0,
    version: g.data.version,
  };
  return <Weighing key={gear} me={me} item={item} units={units} onNext={onNext} />;
}

type WeighingProps = { me: Membership; item?: Item; units: Units; onNext: () => void };

function Weighing({ me, item, units, onNext }: WeighingProps) {
  const queries = useQueryClient();
  const crew = me.crew_id;
  const [tare, setTare] = useState(0);
  const [byHand, setByHand] = useState("");
  const mayChange = may(me, "change_gear");
  const scale = useQuery(askGear.scale(crew, tare));
  const hang = useMutation({
    mutationFn: (gear?: string) =>
      api.post("/api/crews/{crew}/scale", { params: { path: { crew } }, body: gear ? { gear_id: gear } : {} }),
  });
  const keep = useMutation({
    mutationFn: (kg: number) =>
      api.post("/api/crews/{crew}/gear/{gear}/mass", {
        params: { path: { crew, gear: item?.gear_id ?? "" } },
        body: { version: item?.version ?? 0, kg },
      }),
    onSuccess: () => {
      if (scale.data?.simulated) hang.mutate(undefined);
      freshGear(queries);
      onNext();
    },
  });
  const s = scale.data;
  const typedKg = readOne({ unit: units.massUnit, si: units.massSI }, byHand);
  return (
    <section
      aria-label="The scale"
      className="grid content-start gap-3 self-start border border-base-content bg-base-200 p-4"
    >
      {item ? (
        <div>
          <h2 className="label-type text-2xl leading-tight">
            {item.name}
            {item.count > 1 ? ` × ${item.count}, all together` : ""}
          </h2>
          <p className="quiet leading-tight">
            {item.where}. Taken for {units.mass(item.kg * item.count, 1)} {units.massUnit}
            {item.held_kg > 0
              ? `, and it holds ${units.mass(item.held_kg, 1)} ${units.massUnit}, which hangs with it`
              : ""}
            .
          </p>
        </div>
      ) : (
        <p className="text-lg">Nothing is left to weigh.</p>
      )}
      <Reading s={s} units={units} />
      {s?.connected && (
        <div className="flex flex-wrap gap-2">
          <button type="button" className="plain-button" disabled={!s.still} onClick={() => setTare(s.gross_kg)}>
            Tare
          </button>
          {tare !== 0 && (
            <button type="button" className="plain-button" onClick={() => setTare(0)}>
              No tare ({units.mass(tare, 2)} {units.massUnit})
            </button>
          )}
          {s.simulated && mayChange && item && (
            <button
              type="button"
              className="plain-button"
              disabled={hang.isPending}
              onClick={() => hang.mutate(item.gear_id)}
            >
              Hang it on (simulated)
            </button>
          )}
          {s.simulated && mayChange && (
            <button
              type="button"
              className="plain-button"
              disabled={hang.isPending}
              onClick={() => hang.mutate(undefined)}
            >
              Take it off
            </button>
          )}
        </div>
      )}
      {mayChange && item && (
        <>
          <button
            type="button"
            className="main-button text-xl"
            disabled={!s?.still || (s.kg ?? 0) < 0.02 || keep.isPending}
            onClick={() => s?.kg !== undefined && keep.mutate(s.kg)}
          >
            Keep{" "}
            {s?.still && s.kg !== undefined ? `${units.mass(s.kg, 2)} ${units.massUnit}` : "it when it hangs still"}
          </button>
          <form
            aria-label="Reading from another scale"
            className="flex items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              if (typedKg !== undefined) keep.mutate(typedKg);
            }}
          >
            <label className="grid flex-1 gap-0.5">
              <span className="text-sm leading-tight">or what another scale says, {units.massUnit}</span>
              <input
                className="input min-h-11 w-full text-base"
                inputMode="decimal"
                value={byHand}
                onChange={(e) => setByHand(e.target.value)}
              />
            </label>
            <button type="submit" className="plain-button" disabled={typedKg === undefined || keep.isPending}>
              Keep
            </button>
          </form>
        </>
      )}
      <Faults
        text={keep.error || hang.error ? sayError(keep.error ?? hang.error) : undefined}
        details={keep.error instanceof Refusal ? keep.error.details : []}
      />
      {item && (
        <Link className="quiet underline" to={`/gear/${item.gear_id}`}>
          More of it
        </Link>
      )}
    </section>
  );
}

function Reading({ s, units }: { s?: Scale; units: Units }) {
  if (!s?.connected)
    return <p>No scale answers. Set ERGASIA_SCALE to the address of one, or type what another says.</p>;
  const kg = s.kg ?? 0;
  return (
    <div aria-live="off">
      <p className="figure-type text-6xl leading-none" data-still={s.still}>
        {s.over ? "too much" : units.mass(kg, 2)} <span className="text-2xl">{s.over ? "" : units.massUnit}</span>
      </p>
      <p role="status" className={s.still ? "" : "quiet"}>
        {s.over
          ? "Over the scale's range."
          : s.still
            ? `still, ± ${units.mass(2 * s.sigma_kg, 2)} ${units.massUnit}`
            : "swinging…"}
      </p>
    </div>
  );
}
