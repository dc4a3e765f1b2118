import { useState } from "react";
import { Link, useParams } from "react-router";
import { type Membership, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { degrees, heelWords, trimWords, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Choice, Page, Part } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";
import { useTrip } from "./useTrip";

type School = (typeof WORDS.schools)[number][0];

/** Where all that goes along is to lie on a trip, beside how the boat lies now. */
export default function StowPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const t = useTrip(me, trip);
  const [school, setSchool] = useState<School>("use");
  useTitle(t.page.data && `Stow, ${t.page.data.name}`);
  if (t.page.isPending) return <Waiting text="Looking at the boat…" />;
  if (t.page.isError) return <ErrorNote text={sayError(t.page.error)} onRetry={() => t.page.refetch()} />;
  const p = t.page.data;
  const stage = p.stages.find((s) => s.stage === "stow");
  const made = t.stow.data;
  const kept = made?.arrangement_id ?? p.stowed_id;
  if (!p.boat_id)
    return (
      <Page title={`Stow for ${p.name}`}>
        <p>
          The trip has no boat yet.{" "}
          <Link className="underline" to={`/trips/${p.id}/who`}>
            Choose one
          </Link>
          .
        </p>
      </Page>
    );
  return (
    <Page
      title={`Stow for ${p.name}`}
      intro={`A place for all that goes along, kept with the trip. How ${p.boat} lies now is not changed until you make the moves.`}
    >
      <p role="status" className="text-2xl leading-tight" data-testid="stow-word">
        {stage?.word}
      </p>
      <ul>
        {stage?.waits.map((w) => (
          <li key={w} className="leading-snug">
            {w}
          </li>
        ))}
      </ul>
      {t.stow.error && (
        <p role="alert" className="text-loud">
          {sayError(t.stow.error)}
        </p>
      )}
      {may(me, "move") && !p.logged && (
        <div className="flex flex-wrap items-end gap-3">
          <div className="w-56">
            <Choice label="Stowed" value={school} options={WORDS.schools} onChange={setSchool} />
          </div>
          <button
            type="button"
            className="main-button"
            disabled={t.stow.isPending}
            onClick={() => t.stow.mutate(school)}
          >
            {t.stow.isPending ? "Looking for places…" : kept ? "Look anew" : "Stow for this trip"}
          </button>
        </div>
      )}
      {made && made.left_out.length > 0 && (
        <Part title="Found no place">
          <ul>
            {made.left_out.map((l) => (
              <li key={l.gear_id} className="leading-snug">
                <b>{l.name}</b>: {l.why}
              </li>
            ))}
          </ul>
        </Part>
      )}
      {made?.then.attitude && <Then me={me} then={made.then} />}
      <p className="flex flex-wrap gap-x-6">
        {kept && (
          <Link className="plain-button flex items-center" to={`/boats/${p.boat_id}/arrangements/${kept}`}>
            The moves from now to that
          </Link>
        )}
        <Link className="flex min-h-11 items-center underline" to={`/boats/${p.boat_id}`}>
          {p.boat} as she lies now
        </Link>
      </p>
    </Page>
  );
}

function Then({ me, then }: { me: Membership; then: NonNullable<ReturnType<typeof useTrip>["stow"]["data"]>["then"] }) {
  const units = unitsOf(me.units);
  const a = then.attitude;
  if (!a) return null;
  return (
    <p className="figure-type text-lg">
      So she lies with everybody seated: {units.small(a.lowest.m)} {units.smallUnit} at the {a.lowest.name}; trim{" "}
      {degrees(Math.abs(a.trim_deg))}° {trimWords(a.trim_deg)}; heel {degrees(Math.abs(a.heel_deg))}°{" "}
      {heelWords(a.heel_deg)}; {then.rummage_min_per_day.toFixed(0)} min a day of fetching
    </p>
  );
}
