import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { askTrip } from "../../api/askTrip";
import { api, type Membership, sayError, type Trip } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { Page, Part, RemoveButton } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { CopyTrip } from "./CopyTrip";
import { TripForm } from "./TripForm";

/** Trips ahead with what is promised to them, and those that were. */
export default function TripsPage({ me }: { me: Membership }) {
  const trips = useQuery(askTrip.trips(me.crew_id));
  const [open, setOpen] = useState<string>();
  if (trips.isPending) return <Waiting text="Loading the trips…" />;
  if (trips.isError) return <ErrorNote text={sayError(trips.error)} onRetry={() => trips.refetch()} />;
  const ahead = trips.data.filter((t) => !t.logged);
  const past = trips.data.filter((t) => t.logged);
  const mayChange = may(me, "change_gear");
  return (
    <Page title="Trips" intro="A piece goes on one trip at a time: what is promised twice is said at once.">
      <ul className="grid gap-4">
        {ahead.map((t) => (
          <li key={t.id} className="grid gap-2 border border-base-content bg-base-200 p-4">
            <div className="flex flex-wrap items-center justify-between gap-2">
              <div>
                <h2 className="label-type text-2xl leading-tight">
                  <Link className="hover:underline" to={`/trips/${t.id}`}>
                    {t.name}
                  </Link>
                </h2>
                <p>{about(t, me)}</p>
              </div>
              <span className="flex gap-1">
                <Link className="plain-button flex items-center" to={`/kits?trip=${t.id}`}>
                  Kits
                </Link>
                <Link className="plain-button flex items-center" to={`/trips/${t.id}/fuel`}>
                  Fuel
                </Link>
                <button
                  type="button"
                  className="plain-button"
                  aria-expanded={open === t.id}
                  onClick={() => setOpen(open === t.id ? undefined : t.id)}
                >
                  {open === t.id ? "Close" : t.promised > 0 ? `${t.promised} promised` : "Nothing promised"}
                </button>
              </span>
            </div>
            {open === t.id && <Goes me={me} trip={t} may={mayChange} />}
          </li>
        ))}
      </ul>
      {ahead.length === 0 && <p>No trip is planned.</p>}
      {mayChange && (
        <Part title="Add a trip">
          <TripForm key={trips.data.length} me={me} />
        </Part>
      )}
      {past.length > 0 && (
        <Part title="Past trips">
          <ul>
            {past.map((t) => (
              <li key={t.id} className="hairline-b grid items-center gap-x-3 py-1 sm:grid-cols-[16rem_1fr_auto]">
                <span>{t.name}</span>
                <span className="quiet">{about(t, me)}</span>
                {mayChange && <CopyTrip me={me} trip={t} />}
              </li>
            ))}
          </ul>
        </Part>
      )}
    </Page>
  );
}

function about(t: Trip, me: Membership): string {
  const boat = me.boats.find((b) => b.id === t.boat_id)?.name;
  return [
    t.starts_on === t.ends_on ? day(t.starts_on) : `${day(t.starts_on)} to ${day(t.ends_on)}`,
    boat,
    t.water,
    `${t.persons} aboard`,
    howMany(t.rods, "rod"),
    `${t.hours} h running`,
  ]
    .filter(Boolean)
    .join(", ");
}

function Goes({ me, trip, may }: { me: Membership; trip: Trip; may: boolean }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const path = { crew: me.crew_id, trip: trip.id };
  const list = useQuery(askTrip.promised(me.crew_id, trip.id));
  const done = () => freshGear(queries);
  const begun = trip.starts_on <= new Date().toISOString().slice(0, 10);
  const kg = (list.data ?? []).reduce((sum, g) => sum + g.kg, 0);
  const ready = (list.data ?? []).filter((g) => g.ready).length;
  return (
    <div className="grid gap-3">
      {list.data && list.data.length === 0 && (
        <p className="quiet">Nothing yet: open a kit, choose this trip, and promise it.</p>
      )}
      {list.data && list.data.length > 0 && (
        <>
          <p>
            {units.mass(kg, 1)} {units.massUnit}; {ready} of {list.data.length} are aboard or on the quay.
          </p>
          <ul>
            {list.data.map((g) => (
              <li key={g.gear_id} className="hairline-b flex min-h-11 items-center justify-between gap-2">
                <Link to={`/gear/${g.gear_id}`} className="leading-tight hover:underline">
                  {g.name}{" "}
                  <span className={g.ready ? "quiet" : "text-loud"}>{g.ready ? g.where : `fetch it: ${g.where}`}</span>
                </Link>
                {may && (
                  <RemoveButton
                    text="Left ashore"
                    name={g.name}
                    remove={() =>
                      api.delete("/api/crews/{crew}/trips/{trip}/gear/{gear}", {
                        params: { path: { ...path, gear: g.gear_id } },
                      })
                    }
                    onRemoved={done}
                  />
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {may && (
        <div className="grid gap-3 lg:grid-cols-2">
          {begun ? (
            <Link className="plain-button flex items-center justify-self-start" to={`/trips/${trip.id}/log`}>
              Log the trip
            </Link>
          ) : (
            <div>
              <RemoveButton
                text="Cancel the trip"
                name={trip.name}
                remove={() => api.delete("/api/crews/{crew}/trips/{trip}", { params: { path } })}
                onRemoved={() => {
                  queries.invalidateQueries({ queryKey: ask.session().queryKey });
                  done();
                }}
              />
            </div>
          )}
          <details>
            <summary className="label-type min-h-11 cursor-pointer py-2 text-lg">Change the trip</summary>
            <TripForm me={me} trip={trip} />
          </details>
        </div>
      )}
    </div>
  );
}
