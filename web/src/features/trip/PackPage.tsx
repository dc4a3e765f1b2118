import { Check, X } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { type Membership, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { Choice, Page } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";
import { Along } from "./Along";
import { type Going, useTrip } from "./useTrip";

/** What goes along, by where it is fetched: ticked off as it comes to the quay. */
export default function PackPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const t = useTrip(me, trip);
  const [by, setBy] = useState<"place" | "person">("place");
  useTitle(t.page.data && `Pack, ${t.page.data.name}`);
  if (t.page.isPending) return <Waiting text="Looking where everything is…" />;
  if (t.page.isError) return <ErrorNote text={sayError(t.page.error)} onRetry={() => t.page.refetch()} />;
  const p = t.page.data;
  const units = unitsOf(me.units);
  const fetched = p.goes.filter((g) => g.state !== "fetch");
  const from = new Map<string, Going[]>();
  for (const g of p.goes.filter((x) => x.state === "fetch")) {
    const at = by === "place" ? g.from : (g.owner ?? "The crew's");
    from.set(at, [...(from.get(at) ?? []), g]);
  }
  const kg = p.goes.reduce((sum, g) => sum + g.kg, 0);
  const changes = may(me, "change_gear") && !p.logged;
  const error = t.fetch.error ?? t.leave.error;
  const waits = p.stages.find((s) => s.stage === "pack")?.waits.filter((w) => w.includes("missing")) ?? [];
  return (
    <Page
      title={`Pack for ${p.name}`}
      intro={
        p.goes.length === 0
          ? undefined
          : `${howMany(p.goes.length, "thing")}, ${units.mass(kg)} ${units.massUnit}. A tick says that it stands on the quay.`
      }
    >
      {error && (
        <p role="alert" className="text-loud">
          {sayError(error)}
        </p>
      )}
      {waits.map((w) => (
        <p key={w} className="text-loud leading-snug">
          {w}
        </p>
      ))}
      {p.goes.length === 0 && (
        <p>
          Nothing goes along yet.{" "}
          <Link className="underline" to={`/trips/${p.id}/who`}>
            Take a kit
          </Link>
          .
        </p>
      )}
      {from.size > 0 && (
        <div className="w-56">
          <Choice
            label="To fetch"
            value={by}
            options={[
              ["place", "by where it is"],
              ["person", "by whose it is"],
            ]}
            onChange={setBy}
          />
        </div>
      )}
      <div className="grid items-start gap-5 lg:grid-cols-2">
        {[...from.entries()].map(([place, list]) => (
          <section key={place} aria-label={place} className="border border-base-content">
            <h2 className="label-type border-(--hair) border-b px-3 py-1 text-xl">{place}</h2>
            <ul>
              {list.map((g) => (
                <li key={g.gear_id} className="hairline-b flex items-center gap-3 pr-1 last:border-0">
                  <button
                    type="button"
                    className="flex min-h-12 flex-1 cursor-pointer items-center gap-3 px-3 text-left hover:bg-base-200 disabled:cursor-default"
                    aria-label={`Here: ${g.name} ${units.mass(g.kg)} ${units.massUnit}${by === "person" ? `, ${g.from}` : ""}`}
                    disabled={!may(me, "move") || p.logged || t.fetch.isPending}
                    onClick={() => t.fetch.mutate(g)}
                  >
                    <span
                      className="grid size-6 shrink-0 place-items-center border border-base-content"
                      aria-hidden="true"
                    />
                    <span className="leading-tight">
                      {g.name}{" "}
                      <span className="quiet text-sm">
                        {units.mass(g.kg)} {units.massUnit}
                        {by === "person" && `, ${g.from}`}
                      </span>
                    </span>
                  </button>
                  {changes && <Leave g={g} leave={() => t.leave.mutate(g)} />}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      {fetched.length > 0 && (
        <section aria-label="Here already" className="grid gap-1">
          <h2 className="label-type text-xl">Here already: {fetched.length}</h2>
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {fetched.map((g) => (
              <li key={g.gear_id} className="hairline-b flex items-center gap-2">
                <Check size={16} aria-hidden="true" />
                <Link
                  className="flex min-h-11 flex-1 items-center leading-tight hover:underline"
                  to={`/gear/${g.gear_id}`}
                >
                  <span>
                    {g.name} <span className="quiet text-sm">{g.where}</span>
                  </span>
                </Link>
                {changes && <Leave g={g} leave={() => t.leave.mutate(g)} />}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Along me={me} trip={trip} logged={p.logged} />
    </Page>
  );
}

function Leave({ g, leave }: { g: Going; leave: () => void }) {
  return (
    <button
      type="button"
      aria-label={`Take off the trip: ${g.name}`}
      title="Take off the trip"
      className="grid size-11 shrink-0 cursor-pointer place-items-center hover:bg-base-200"
      onClick={leave}
    >
      <X size={18} aria-hidden="true" />
    </button>
  );
}
