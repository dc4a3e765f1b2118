import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type GearDetail, type Membership, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { MiniPlan } from "../../parts/MiniPlan";
import { RemoveButton } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { ago, day } from "../../ui/time";
import { useTitle } from "../../ui/useTitle";
import { Contents } from "./Contents";
import { GearForm } from "./GearForm";
import { States } from "./GearPage";
import { MoveTo } from "./MoveTo";
import { History, Part, Pictures, Services, Spoken } from "./PieceAside";

/** One piece: where it is first of all, then what is in it, then the rest. */
export default function PiecePage({ me }: { me: Membership }) {
  const { gear = "" } = useParams();
  const piece = useQuery(askGear.gear(me.crew_id, gear));
  useTitle(piece.data?.name);
  if (piece.isPending) return <Waiting text="Loading…" />;
  if (piece.isError) return <ErrorNote text={sayError(piece.error)} onRetry={() => piece.refetch()} />;
  return <Piece key={piece.data.id} me={me} g={piece.data} />;
}

function Piece({ me, g }: { me: Membership; g: GearDetail }) {
  const units = unitsOf(me.units);
  const members = useQuery(ask.members(me.crew_id));
  const mayChange = may(me, "change_gear");
  const owner = members.data?.find((m) => m.id === g.owner_id);
  const box = (g.inside_m?.[0] ?? 0) > 0;
  const facts = [
    `${g.size_m.map(units.side).join(" × ")} ${units.sideUnit}`,
    `${units.mass(g.kg, 2)} ${units.massUnit}${g.count !== 1 ? " each" : ""}, ${g.mass_known === "guess" ? "a guess" : g.mass_known}`,
    owner ? `${owner.name}'s` : "the crew's",
    g.needs_dry ? "must stay dry" : "",
    g.fragile ? "fragile" : "",
    ...(g.hazards ?? []),
    g.expires_on ? `good until ${day(g.expires_on)}` : "",
    g.serial ? `no. ${g.serial}` : "",
    g.trips > 0 ? `${howMany(g.trips, "trip")}, ${g.hours} h` : "",
    g.code ? `label ${g.code}` : "",
    ...(g.tags ?? []).map((t) => `#${t}`),
  ].filter(Boolean);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-x-8 gap-y-5 p-4 lg:grid-cols-[1fr_21rem] lg:p-6">
        <div className="grid content-start gap-5">
          <header>
            <h1 className="label-type text-3xl leading-tight">
              {g.name}
              {g.count !== 1 ? ` × ${g.count}` : ""}
              <States g={{ ...g, holds: 0 }} />
            </h1>
            <p className="quiet">{facts.join(" · ")}</p>
          </header>
          <WhereItIs me={me} g={g} />
          {box && (
            <Part title="In it">
              <Contents me={me} rows={g.holdings} />
            </Part>
          )}
          {g.spares.length > 0 && (
            <Part title="Spares for it">
              <ul>
                {g.spares.map((x) => (
                  <li key={x.id} className="flex min-h-11 items-center gap-3">
                    <Link to={`/gear/${x.id}`} className="hover:underline">
                      {x.name}
                      {x.count !== 1 ? ` × ${x.count}` : ""}
                    </Link>
                    <span className="quiet">{x.spot.text}</span>
                  </li>
                ))}
              </ul>
            </Part>
          )}
          {mayChange && (
            <Part title="What it is">
              <GearForm key={g.id} me={me} gear={g} />
            </Part>
          )}
        </div>
        <div className="grid content-start gap-5">
          <Actions me={me} g={g} may={mayChange} />
          <Spoken me={me} g={g} may={mayChange} />
          <Services me={me} g={g} may={mayChange} />
          <Pictures me={me} g={g} may={mayChange} />
          <History me={me} g={g} />
        </div>
      </div>
    </main>
  );
}

function WhereItIs({ me, g }: { me: Membership; g: GearDetail }) {
  const where = useQuery(askGear.where(me.crew_id, g.id));
  const mayChange = may(me, "move") && g.spot.kind !== "lent";
  const w = where.data;
  return (
    <section aria-label="Where it is" className="grid gap-3 border border-base-content bg-base-200 p-4">
      <div className="grid gap-4 sm:grid-cols-[1fr_15rem]">
        <div>
          <p className="text-2xl leading-tight">{w?.sentence ?? g.spot.text}</p>
          {w && w.way.length > 0 && (
            <ol className="list-decimal pt-2 pl-5">
              {w.way.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
          )}
          {w?.against && w.against.length > 0 && (
            <p className="text-loud pt-2">Noted against a rule: {w.against.join(" ")}</p>
          )}
          {w?.trail[0] && (
            <p className="quiet pt-2 text-sm">
              {w.trail[0].by} moved it {ago(w.trail[0].at)}.
            </p>
          )}
        </div>
        {g.spot.boat_id && <MiniPlan crew={me.crew_id} boat={g.spot.boat_id} place={g.spot.place_id} box={w?.box} />}
      </div>
      {/* Not before what stands over it is there: it would move away under a thumb. */}
      {mayChange && !where.isPending && (
        <details>
          <summary className="plain-button w-fit content-center px-4 py-2.5">I moved it</summary>
          <div className="pt-3">
            <MoveTo me={me} gear={{ id: g.id, name: g.name, version: g.spot.version }} />
          </div>
        </details>
      )}
    </section>
  );
}

function Actions({ me, g, may }: { me: Membership; g: GearDetail; may: boolean }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [part, setPart] = useState("1");
  const split = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/gear/{gear}/split", {
        params: { path: { crew: me.crew_id, gear: g.id } },
        body: { version: g.version, count: Number(part) || 0 },
      }),
    onSuccess: (made) => {
      freshGear(queries);
      navigate(`/gear/${made.id}`);
    },
  });
  if (!may) return null;
  return (
    <section aria-label="What can be done" className="flex flex-wrap items-end gap-2">
      <Link className="plain-button flex items-center" to={`/weigh?gear=${g.id}`}>
        Weigh it
      </Link>
      <Link className="plain-button flex items-center" to={`/labels?gear=${g.id}`}>
        Label
      </Link>
      <RemoveButton
        text="Remove from the list"
        name={g.name}
        remove={() =>
          api.delete("/api/crews/{crew}/gear/{gear}", { params: { path: { crew: me.crew_id, gear: g.id } } })
        }
        onRemoved={() => {
          navigate("/gear");
          freshGear(queries);
        }}
      />
      {g.count > 1 && (
        <form
          className="flex items-end gap-2"
          aria-label="Split"
          onSubmit={(e) => {
            e.preventDefault();
            split.mutate();
          }}
        >
          <label className="grid gap-0.5">
            <span className="text-sm leading-tight">Keep apart</span>
            <input
              className="input min-h-11 w-20 text-base"
              inputMode="numeric"
              value={part}
              onChange={(e) => setPart(e.target.value)}
            />
          </label>
          <button type="submit" className="plain-button" disabled={split.isPending}>
            of {g.count}
          </button>
        </form>
      )}
      {split.error && (
        <p role="alert" className="text-loud w-full">
          {sayError(split.error)}
        </p>
      )}
    </section>
  );
}
