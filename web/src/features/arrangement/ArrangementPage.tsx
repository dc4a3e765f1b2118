import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ask, freshGear, showState } from "../../api/ask";
import { askBoat, type WayQuery } from "../../api/askBoat";
import { askGear } from "../../api/askGear";
import { api, type Bench, type BoatState, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { Compared } from "../../parts/Compared";
import { MoveList } from "../../parts/MoveList";
import { Choice, Page, Part, RemoveButton, SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Faults, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";
import { type Arrangement, liesWords } from "./ArrangementsPage";

/** One arrangement: what it takes to come back to it, and to put its things away. */
export default function ArrangementPage({ me }: { me: Membership }) {
  const { boat = "", arrangement = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const list = useQuery(askBoat.arrangements(me.crew_id, boat));
  const one = list.data?.find((a) => a.id === arrangement);
  useTitle(one?.name);
  if (bench.isPending || list.isPending) return <Waiting text="Loading the arrangement…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (list.isError) return <ErrorNote text={sayError(list.error)} onRetry={() => list.refetch()} />;
  if (!one) return <ErrorNote text="This arrangement is not kept any more." />;
  return <One key={one.id} me={me} bench={bench.data} one={one} />;
}

const STAY = "stay";
const QUAY = "quay";

function One({ me, bench, one }: { me: Membership; bench: Bench; one: Arrangement }) {
  const [way, setWay] = useState<"lay" | "off">(one.whole || one.lie < one.things ? "lay" : "off");
  const [rest, setRest] = useState<string>(one.whole ? QUAY : STAY);
  const [off, setOff] = useState<string>(QUAY);
  const shed = useQuery(askGear.shed(me.crew_id)).data ?? [];
  const ashore = [[QUAY, "to the quay"], ...shed.map((s) => [s.id, `to ${s.site}, ${s.name}`] as const)] as const;
  const query: WayQuery =
    way === "lay" ? { rest: rest !== STAY, shed: shedOf(rest) } : { off: true, shed: shedOf(off) };
  return (
    <Page title={one.name} intro={`${bench.name}: ${liesWords(one)}.`}>
      <form aria-label="The way back" className="grid max-w-2xl gap-x-4 gap-y-2 sm:grid-cols-2">
        <Choice
          label="What to do"
          value={way}
          options={[
            ["lay", "lay its things as they lay"],
            ["off", "take its things off her"],
          ]}
          onChange={setWay}
        />
        {way === "lay" ? (
          <Choice
            label="What it does not name"
            value={rest}
            options={[[STAY, "stays aboard"], ...ashore.map(([k, v]) => [k, `goes ${v}`] as const)]}
            onChange={setRest}
          />
        ) : (
          <Choice label="They go" value={off} options={ashore} onChange={setOff} />
        )}
      </form>
      <Way key={JSON.stringify(query)} me={me} bench={bench} one={one} query={query} />
      {may(me, "move") && <Keeping me={me} boat={bench.id} one={one} />}
    </Page>
  );
}

const shedOf = (choice: string) => (choice === STAY || choice === QUAY ? undefined : choice);

type WayProps = { me: Membership; bench: Bench; one: Arrangement; query: WayQuery };

/** The way there: how she would be, what moves, and what can't. */
function Way({ me, bench, one, query }: WayProps) {
  const queries = useQueryClient();
  const [without, setWithout] = useState<string[]>([]);
  const asked = useQuery(askBoat.wayBack(me.crew_id, bench.id, one.id, query, bench.state.last?.at));
  const path = { crew: me.crew_id, boat: bench.id };
  const show = (state: BoatState) => {
    showState(queries, me.crew_id, bench.id, state);
    freshGear(queries);
  };
  const go = useMutation({
    mutationFn: (moves: Schemas["PlannedMove"][]) =>
      api.post("/api/crews/{crew}/boats/{boat}/plan/accept", { params: { path }, body: { moves: moves.map(command) } }),
    onSuccess: show,
    onError: () => freshGear(queries),
  });
  const back = useMutation({
    mutationFn: () => api.post("/api/crews/{crew}/boats/{boat}/undo", { params: { path } }),
    onSuccess: (state) => {
      go.reset();
      show(state);
    },
  });
  if (asked.isPending) return <Waiting text="Looking what it takes…" />;
  if (asked.isError) return <ErrorNote text={sayError(asked.error)} onRetry={() => asked.refetch()} />;
  const { moves, left_out } = asked.data;
  const chosen = moves.filter((m) => !without.includes(m.gear_id));
  const error = go.error ?? back.error;
  return (
    <>
      {go.isSuccess && (
        <p role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1 text-lg">
          {go.variables.length === 1 ? "1 move was made." : `${go.variables.length} moves were made.`}
          <button type="button" className="plain-button" disabled={back.isPending} onClick={() => back.mutate()}>
            Undo
          </button>
          <Link className="underline" to={`/boats/${bench.id}`}>
            See her on the bench
          </Link>
        </p>
      )}
      <Faults text={error ? sayError(error) : undefined} details={[]} />
      {moves.length > 0 && <Compared bench={bench} plan={asked.data} units={unitsOf(me.units)} />}
      <section aria-label="Moves" className="grid gap-2 border-(--hair) border-t pt-3">
        <h2 className="label-type text-2xl">{headline(moves.length, left_out.length, query)}</h2>
        {left_out.length > 0 && (
          <div className="text-loud">
            <p>
              {left_out.length === 1
                ? "One thing can't lie as it lay:"
                : `${left_out.length} things can't lie as they lay:`}
            </p>
            <ul>
              {left_out.map((l) => (
                <li key={l.gear_id}>{l.why}</li>
              ))}
            </ul>
          </div>
        )}
        <MoveList moves={moves} without={without} onWithout={setWithout} />
        {may(me, "move") && chosen.length > 0 && (
          <button
            type="button"
            className="main-button justify-self-start"
            disabled={go.isPending || asked.isPlaceholderData}
            onClick={() => go.mutate(chosen)}
          >
            {chosen.length === moves.length
              ? query.off
                ? "They are off her now"
                : "She lies so now"
              : `Make ${chosen.length} of the moves`}
          </button>
        )}
      </section>
    </>
  );
}

function headline(moves: number, left: number, query: WayQuery): string {
  if (moves > 0) return moves === 1 ? "1 move" : `${moves} moves, in this order`;
  if (query.off) return "None of its things is aboard";
  return left > 0 ? "Nothing else to move" : "She lies so: nothing to move";
}

const command = (m: Schemas["PlannedMove"]) => ({
  gear_id: m.gear_id,
  place_id: m.place_id,
  box_id: m.box_id,
  shed_id: m.shed_id,
  anyway: m.anyway,
  version: m.version,
});

/** Its name, and keeping how its things lie now. */
function Keeping({ me, boat, one }: { me: Membership; boat: string; one: Arrangement }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const draft = `${me.crew_id}.arrangement.${one.id}`;
  const [name, setName] = useDraft(`${draft}.name`, one.name);
  const params = { path: { crew: me.crew_id, boat, arrangement: one.id } };
  const change = (again: boolean) =>
    api.put("/api/crews/{crew}/boats/{boat}/arrangements/{arrangement}", {
      params,
      body: { name: again ? one.name : name.trim(), again, version: one.version },
    });
  const again = useMutation({ mutationFn: () => change(true), onSettled: () => freshGear(queries) });
  return (
    <Part title="This arrangement">
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="plain-button" disabled={again.isPending} onClick={() => again.mutate()}>
          Keep how {one.whole ? "she lies" : "its things lie"} now instead
        </button>
        <RemoveButton
          text="Remove"
          name={one.name}
          remove={() => api.delete("/api/crews/{crew}/boats/{boat}/arrangements/{arrangement}", { params })}
          onRemoved={() => {
            freshGear(queries);
            navigate(`/boats/${boat}/arrangements`);
          }}
        />
        <span role="status">{again.isSuccess && "It is kept as she lies now."}</span>
      </div>
      <Faults text={again.error ? sayError(again.error) : undefined} details={[]} />
      <SaveForm
        name="Rename"
        draft={draft}
        button="Rename"
        save={() => change(false)}
        onSaved={() => freshGear(queries)}
      >
        <div className="max-w-md">
          <TextField label="Name" value={name} onChange={setName} />
        </div>
      </SaveForm>
    </Part>
  );
}
