import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { freshGear } from "../../api/ask";
import { askTrip, writeTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";

type Piece = Schemas["AlongPiece"];
const FIRST = 8;

/** What lies aboard and this trip does not ask for: what it costs, how often it was used, and a press that leaves it ashore. */
export function Along({ me, trip, logged }: { me: Membership; trip: string; logged: boolean }) {
  const queries = useQueryClient();
  const view = useQuery(askTrip.along(me.crew_id, trip));
  const [all, setAll] = useState(false);
  const units = unitsOf(me.units);
  const ids = (view.data?.ashore ?? []).map((p) => p.gear_id);
  const leave = useMutation({
    mutationFn: (next: string[]) => writeTrip.ashore(me.crew_id, trip, next, view.data?.version ?? 0),
    onSuccess: () => freshGear(queries),
  });
  if (!view.data) return null;
  const v = view.data;
  const changes = may(me, "change_gear") && !logged;
  if (v.list.length === 0 && ids.length === 0) return null;
  const shown = all ? v.list : v.list.slice(0, FIRST);
  return (
    <section aria-label="Aboard, and not asked for" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">
        Aboard, and not asked for: {howMany(v.list.length, "thing")}, {units.mass(v.kg)} {units.massUnit}
      </h2>
      {leave.error && (
        <p role="alert" className="text-loud">
          {sayError(leave.error)}
        </p>
      )}
      {v.never.length > 0 && (
        <p>
          Never used on the last trips: {v.never.map((p) => p.name).join(", ")}; {units.mass(v.never_kg)}{" "}
          {units.massUnit}.
          {changes && (
            <>
              {" "}
              <button
                type="button"
                className="min-h-11 cursor-pointer underline"
                onClick={() => leave.mutate([...ids, ...v.never.map((p) => p.gear_id)])}
              >
                Leave them ashore
              </button>
            </>
          )}
        </p>
      )}
      <ul>
        {shown.map((p) => (
          <li key={p.gear_id} className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3">
            <span className="py-1 leading-tight">
              <Link className="hover:underline" to={`/gear/${p.gear_id}`}>
                {p.name}
              </Link>{" "}
              <span className="quiet text-sm">{p.place}</span>
              <br />
              <span className="text-sm">{costs(p, units)}</span>
            </span>
            {changes &&
              (p.safety ? (
                <span className="quiet text-sm">for need</span>
              ) : (
                <button
                  type="button"
                  className="plain-button"
                  aria-label={`Leave ashore: ${p.name}`}
                  disabled={leave.isPending}
                  onClick={() => leave.mutate([...ids, p.gear_id])}
                >
                  Leave ashore
                </button>
              ))}
          </li>
        ))}
      </ul>
      {v.list.length > FIRST && (
        <button
          type="button"
          className="min-h-11 cursor-pointer justify-self-start underline"
          onClick={() => setAll(!all)}
        >
          {all ? "Only the heaviest" : `All ${v.list.length}`}
        </button>
      )}
      {v.ashore.length > 0 && (
        <section aria-label="Stays ashore" className="grid gap-1">
          <h3 className="label-type text-lg">Stays ashore on this trip</h3>
          <ul>
            {v.ashore.map((p) => (
              <li key={p.gear_id} className="hairline-b flex min-h-12 items-center justify-between gap-3">
                <span className="leading-tight">
                  {p.name}{" "}
                  <span className="quiet text-sm">
                    {units.mass(p.kg)} {units.massUnit}
                  </span>
                </span>
                {changes && (
                  <button
                    type="button"
                    className="plain-button"
                    aria-label={`Goes along: ${p.name}`}
                    onClick={() => leave.mutate(ids.filter((id) => id !== p.gear_id))}
                  >
                    Goes along
                  </button>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </section>
  );
}

function costs(p: Piece, units: ReturnType<typeof unitsOf>): string {
  const list = [`${units.mass(p.kg)} ${units.massUnit}`];
  if (p.freeboard_m >= 0.0005) list.push(`${units.small(p.freeboard_m)} ${units.smallUnit} of freeboard`);
  if (p.range_m >= 100) list.push(`about ${units.way(p.range_m)} of range`);
  if (p.along > 0)
    list.push(
      p.used > 0
        ? `along ${howMany(p.along, "time")}, used ${p.used}`
        : `along ${howMany(p.along, "time")}, never used`,
    );
  return list.join(", ");
}
