import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { ask, freshGear, showState } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { api, type Bench, type Membership, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { Compared } from "../../parts/Compared";
import { MoveList } from "../../parts/MoveList";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { ReachPicture } from "./ReachPicture";
import { type PlanInput, type PlanView, usePlan } from "./usePlan";

const SCHOOLS = [
  ["use", "By use", "what is fetched most lies nearest"],
  ["technique", "By technique", "the things of a kit lie together"],
  ["owner", "By owner", "everyone's things lie together"],
  ["balance", "By balance", "level and low before quick"],
] as const;

type School = (typeof SCHOOLS)[number][0];
type Weights = NonNullable<PlanInput["weights"]>;

const SLIDERS: [keyof Weights, string, number][] = [
  ["stay_s", "Few moves", 30],
  ["kit_s", "A kit in one place", 120],
  ["owner_s", "An owner's things in one place", 120],
  ["level_s", "Level", 300],
  ["low_down_s", "Heavy things low and amidships", 60],
];

export default function PlanPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const schools = useQuery(askBoat.planSchools(me.crew_id));
  if (bench.isPending || schools.isPending) return <Waiting text="Loading the boat…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (schools.isError) return <ErrorNote text={sayError(schools.error)} onRetry={() => schools.refetch()} />;
  return <Planning key={boat} me={me} bench={bench.data} schools={schools.data} />;
}

function Planning({ me, bench, schools }: { me: Membership; bench: Bench; schools: Record<string, Weights> }) {
  const [school, setSchool] = useState<School>("use");
  const [weights, setWeights] = useState<Weights>(schools.use as Weights);
  const [query] = useSearchParams();
  const rods = query.get("only") === "rods";
  const [quay, setQuay] = useState(rods);
  const [left, setLeft] = useState(false);
  const [pinned, setPinned] = useDraft<string[]>(`${me.crew_id}.plan.${bench.id}.pins`, []); // they last
  const [made, setMade] = useState("");
  const [kept, setKept] = useState<{ plan: PlanView; school: string }>();
  const { best, round, running, error, find, stop, forget, show } = usePlan(me.crew_id, bench.id);
  const choose = (s: School) => {
    setSchool(s);
    setWeights(schools[s] as Weights);
  };
  const rummage = bench.state.now.rummage_min_per_day;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-5 p-4 lg:p-6">
        <div>
          <h1 className="label-type text-3xl">
            A plan for {bench.name}
            {rods && ", rods only"}
          </h1>
          <p className="text-xl">
            {rummage > 0 ? (
              <>
                As she lies now, fetching takes{" "}
                <span className="figure-type text-2xl">{rummage < 1 ? "less than 1" : rummage.toFixed(0)}</span> min a
                day.
              </>
            ) : (
              "Nothing is fetched yet: nothing lies aboard, or nobody said where people work."
            )}
          </p>
          <a
            className="inline-flex min-h-11 items-center underline"
            href={`/api/crews/${me.crew_id}/boats/${bench.id}/lid-cards`}
          >
            Lid cards to print, as she lies now
          </a>
          {rods && (
            <Link className="ml-5 inline-flex min-h-11 items-center underline" to={`/boats/${bench.id}/plan`}>
              Plan all of it
            </Link>
          )}
        </div>
        <div className="grid items-start gap-6 lg:grid-cols-[17rem_minmax(0,1fr)]">
          <form
            aria-label="Priorities"
            className="grid gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (running) stop();
              else find({ school, weights, quay, pinned, rods, left });
            }}
          >
            <fieldset className="grid gap-1">
              <legend className="label-type pb-1 text-xl">Stow</legend>
              {SCHOOLS.map(([key, name, says]) => (
                <label key={key} className="flex min-h-11 cursor-pointer items-start gap-2 py-1 leading-tight">
                  <input
                    type="radio"
                    name="school"
                    className="mt-1 size-4 accent-(--color-base-content)"
                    checked={school === key}
                    onChange={() => choose(key)}
                  />
                  <span>
                    <span className="label-type text-lg">{name}</span>
                    <br />
                    <span className="quiet text-sm">{says}</span>
                  </span>
                </label>
              ))}
            </fieldset>
            <label className="flex min-h-11 cursor-pointer items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-(--color-base-content)"
                checked={quay}
                onChange={(e) => setQuay(e.target.checked)}
              />
              Include what is on the quay
            </label>
            <label className="flex min-h-11 cursor-pointer items-start gap-2 py-1 leading-tight">
              <input
                type="checkbox"
                className="mt-1 size-4 accent-(--color-base-content)"
                checked={left}
                onChange={(e) => setLeft(e.target.checked)}
              />
              <span>
                The boat is left unattended
                <br />
                <span className="quiet text-sm">what is tagged lock goes under a lock</span>
              </span>
            </label>
            <details>
              <summary className="min-h-11 cursor-pointer underline">What counts, in seconds a day</summary>
              {SLIDERS.map(([key, name, most]) => (
                <label key={key} className="grid pt-2 leading-tight">
                  <span className="flex justify-between gap-2">
                    {name}
                    <span className="figure-type">{weights[key]} s</span>
                  </span>
                  <input
                    type="range"
                    className="h-8 w-full accent-(--color-base-content)"
                    min={0}
                    max={most}
                    value={weights[key]}
                    onChange={(e) => setWeights({ ...weights, [key]: Number(e.target.value) })}
                  />
                </label>
              ))}
            </details>
            <button type="submit" className="main-button">
              {running ? "Stop looking" : best ? "Look again" : "Find a plan"}
            </button>
            <p aria-live="polite" className="quiet min-h-10 text-sm">
              {running ? `Looking, round ${round}. ` : ""}
              {best && gapWords(best)}
            </p>
            {pinned.length > 0 && (
              <p className="text-sm">
                {pinned.length === 1 ? "1 thing stays" : `${pinned.length} things stay`} where{" "}
                {pinned.length === 1 ? "it is" : "they are"}.{" "}
                <button type="button" className="underline" onClick={() => setPinned([])}>
                  Unpin all
                </button>
              </p>
            )}
          </form>
          <div className="grid gap-6">
            {made && !best && (
              <p role="status" className="text-lg">
                {made}
              </p>
            )}
            {error && (
              <p role="alert" className="text-loud">
                {error}
              </p>
            )}
            {best ? (
              <>
                <Compared bench={bench} plan={best} kept={kept?.plan} units={unitsOf(me.units)} />
                <p className="flex flex-wrap items-center gap-x-4">
                  {kept ? (
                    <>
                      <span>Compared with the plan you kept, {kept.school.toLowerCase()}.</span>
                      <button
                        type="button"
                        className="min-h-11 underline"
                        disabled={running}
                        onClick={() => {
                          show(kept.plan);
                          setKept(undefined);
                        }}
                      >
                        Use the kept plan
                      </button>
                      <button type="button" className="min-h-11 underline" onClick={() => setKept(undefined)}>
                        Compare with how she lies now
                      </button>
                    </>
                  ) : (
                    <button
                      type="button"
                      className="plain-button"
                      disabled={running}
                      onClick={() =>
                        setKept({ plan: best, school: SCHOOLS.find(([key]) => key === school)?.[1] ?? school })
                      }
                    >
                      Keep it, to compare the next with
                    </button>
                  )}
                </p>
                <Moves
                  me={me}
                  bench={bench}
                  plan={best}
                  running={running}
                  onDone={(n) => {
                    setMade(
                      `${n === 1 ? "1 move was" : `${n} moves were`} made: she is stowed so now. Undo on the bench takes all of it back as one.`,
                    );
                    setKept(undefined);
                    forget();
                  }}
                  onPin={(id) => setPinned([...pinned, id])}
                />
              </>
            ) : (
              <ReachPicture crew={me.crew_id} bench={bench} />
            )}
          </div>
        </div>
      </div>
    </main>
  );
}

function gapWords(plan: PlanView): string {
  if (plan.stopped_by === "proved") return "No plan is better.";
  const most = Math.min(plan.better_min, plan.then.rummage_min_per_day); // all that is left to save
  const saves = most < 1 ? "a minute" : `${Math.ceil(most)} minutes`;
  return `No other plan can save more than ${saves} a day beyond this one.`;
}

type MovesProps = {
  me: Membership;
  bench: Bench;
  plan: PlanView;
  running: boolean;
  onDone: (moves: number) => void;
  onPin: (gear: string) => void;
};

/** The moves in order, as a checklist to take over whole or in part. */
function Moves({ me, bench, plan, running, onDone, onPin }: MovesProps) {
  const queries = useQueryClient();
  const [without, setWithout] = useState<string[]>([]);
  const mayChange = may(me, "move");
  const chosen = plan.moves.filter((m) => !without.includes(m.gear_id));
  const accept = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/boats/{boat}/plan/accept", {
        params: { path: { crew: me.crew_id, boat: bench.id } },
        body: { moves: chosen.map((m) => ({ gear_id: m.gear_id, place_id: m.place_id, version: m.version })) },
      }),
    onSuccess: (state) => {
      showState(queries, me.crew_id, bench.id, state);
      freshGear(queries);
      onDone(chosen.length);
    },
  });
  return (
    <section aria-label="Moves" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-2xl">
        {plan.moves.length === 0
          ? "Nothing to move"
          : plan.moves.length === 1
            ? "1 move"
            : `${plan.moves.length} moves, in this order`}
      </h2>
      {plan.left_out.length > 0 && (
        <div className="text-loud">
          <p>
            {plan.left_out.length === 1 ? "One thing finds no place:" : `${plan.left_out.length} things find no place:`}
          </p>
          <ul>
            {plan.left_out.map((l) => (
              <li key={l.gear_id}>{l.why}</li>
            ))}
          </ul>
          {plan.clash.length > 0 && (
            <p>
              {plan.clash_least ? "These rules clash, and each of them counts" : "Some of these rules clash"}:{" "}
              {plan.clash.join("; ")}.
            </p>
          )}
        </div>
      )}
      <MoveList moves={plan.moves} without={without} onWithout={setWithout} onPin={onPin} />
      <details>
        <summary className="min-h-11 cursor-pointer underline">Loading her from empty, in this order</summary>
        <ol className="columns-1 gap-8 sm:columns-2">
          {plan.loading.map((l) => (
            <li key={l.place} className="break-inside-avoid pb-2">
              <span className="label-type text-lg">{l.place}</span>
              <ul>
                {l.names.map((name) => (
                  <li key={name}>
                    <label className="flex min-h-8 cursor-pointer items-center gap-2 leading-tight">
                      <input type="checkbox" className="size-4 accent-(--color-base-content)" />
                      {name}
                    </label>
                  </li>
                ))}
              </ul>
            </li>
          ))}
        </ol>
      </details>
      {accept.error && (
        <p role="alert" className="text-loud">
          {sayError(accept.error)}
        </p>
      )}
      {mayChange && chosen.length > 0 && (
        <button
          type="button"
          className="main-button justify-self-start"
          disabled={accept.isPending || running}
          onClick={() => accept.mutate()}
        >
          {chosen.length === plan.moves.length ? "Use this plan" : `Make ${chosen.length} of the moves`}
        </button>
      )}
    </section>
  );
}
