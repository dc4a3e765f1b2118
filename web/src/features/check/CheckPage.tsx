import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { api, type Bench, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { Choice, NotANumber } from "../../ui/Form";
import { parseLength } from "../../ui/lengths";
import { ErrorNote, Faults, Waiting } from "../../ui/States";
import { ago } from "../../ui/time";
import { Inclining } from "./Inclining";
import { Kept } from "./Kept";
import { useCheck } from "./useCheck";

type Surveys = Schemas["Surveys"];
export type Finding = Schemas["FloatFinding"];

export default function CheckPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const checks = useQuery(askBoat.checks(me.crew_id, boat));
  const [kind, setKind] = useState<"float" | "incline">("float");
  if (bench.isPending || checks.isPending) return <Waiting text="Loading the boat…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (checks.isError) return <ErrorNote text={sayError(checks.error)} onRetry={() => checks.refetch()} />;
  const tab = (k: typeof kind, text: string) => (
    <button
      type="button"
      aria-pressed={kind === k}
      className={kind === k ? "main-button" : "plain-button"}
      onClick={() => setKind(k)}
    >
      {text}
    </button>
  );
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-5 p-4 lg:p-6">
        <div>
          <h1 className="label-type text-3xl">Check {bench.data.name} with a tape</h1>
          <p className="quiet max-w-3xl">
            Calm water, nobody moving, lines slack. What she really weighs shows in how deep she floats; the difference
            from the list of masses is a mass, and it has a place.
          </p>
          <div className="flex gap-2 pt-3">
            {tab("float", "Float check: freeboards")}
            {tab("incline", "Inclining check: a walk across")}
          </div>
        </div>
        {kind === "float" ? (
          <FloatCheck me={me} bench={bench.data} points={checks.data.points} />
        ) : (
          <Inclining me={me} bench={bench.data} />
        )}
        <Kept me={me} bench={bench.data} checks={checks.data} />
      </div>
    </main>
  );
}

/** Who stands where, to be put right before anything is read. */
export function WhoStandsWhere({ me, bench }: { me: Membership; bench: Bench }) {
  const queries = useQueryClient();
  const move = useMutation({
    mutationFn: (body: Schemas["MoveInput"]) =>
      api.post("/api/crews/{crew}/boats/{boat}/moves", {
        params: { path: { crew: me.crew_id, boat: bench.id } },
        body,
      }),
    onSettled: () => queries.invalidateQueries({ queryKey: ask.bench(me.crew_id, bench.id).queryKey }),
  });
  const mayChange = may(me, "move");
  return (
    <div className="grid gap-2">
      {bench.members.map((m) => {
        const at = bench.state.people.find((s) => s.member_id === m.id);
        return (
          <div key={m.id} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] items-center gap-3">
            <span>
              {m.name}{" "}
              <span className="quiet text-sm">
                {at?.post_id ? (at.seated ? "seated" : "standing") : (at?.boat ?? "")}
              </span>
            </span>
            <select
              className="select min-h-11 w-full text-base"
              aria-label={`Where ${m.name} is`}
              disabled={!mayChange || move.isPending || Boolean(at?.boat)}
              value={at?.post_id ?? ""}
              onChange={(e) =>
                move.mutate({
                  member_id: m.id,
                  post_id: e.target.value || undefined,
                  seated: at?.seated ?? false,
                  version: at?.version ?? 0,
                })
              }
            >
              <option value="">ashore</option>
              {bench.posts.map((q) => (
                <option key={q.id} value={q.id}>
                  {q.name}
                </option>
              ))}
            </select>
          </div>
        );
      })}
      {move.error && <p className="text-loud">{sayError(move.error)}</p>}
    </div>
  );
}

const STEPS = [
  ["0.005", "5 mm"],
  ["0.002", "2 mm"],
  ["0.01", "10 mm"],
] as const;

const STEPS_US = [
  ["0.003175", '1/8"'],
  ["0.0015875", '1/16"'],
  ["0.00635", '1/4"'],
] as const;

const WATER = [
  ["0", "flat calm"],
  ["0.002", "almost calm"],
  ["0.006", "ripples"],
] as const;

type FloatCheckProps = { me: Membership; bench: Bench; points: Surveys["points"] };

function FloatCheck({ me, bench, points }: FloatCheckProps) {
  const units = unitsOf(me.units);
  const steps = units.system === "us" ? STEPS_US : STEPS;
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [step, setStep] = useState<string>(steps[0][0]);
  const [water, setWater] = useState<string>("0");
  const [focus, setFocus] = useState<string>();
  const body = (): { float: Schemas["FloatCheckInput"] } => {
    const readings = points.flatMap((q) => {
      const text = texts[q.name]?.trim();
      if (!text) return [];
      const m = parseLength(text, units.smallUnit);
      if (m === undefined) throw new NotANumber(`${q.name}: write a length in ${units.smallUnit}.`);
      return [{ name: q.name, at_m: q.at_m, freeboard_m: m }];
    });
    return { float: { readings, step_m: Number(step), ripple_m: Number(water) } };
  };
  const { trying, keeping, error } = useCheck(me, bench.id, body, () => setTexts({}));
  const found = trying.data?.float;
  const filled = points.filter((q) => texts[q.name]?.trim()).length;
  const at = bench.posts.find((q) => bench.state.people.some((s) => s.post_id === q.id));
  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
      <ol className="grid content-start gap-5">
        <Step n={1} title="Who stands where">
          <WhoStandsWhere me={me} bench={bench} />
          {!at && (
            <p className="quiet text-sm">Nobody is aboard: that is the best check of all, read from the jetty.</p>
          )}
        </Step>
        <Step n={2} title="The water">
          <div className="grid grid-cols-2 gap-4">
            <Choice label="Kind of water" value={water} options={WATER} onChange={setWater} />
            <Choice label="Tape is read to" value={step} options={steps} onChange={setStep} />
          </div>
        </Step>
        <Step n={3} title="Three to six freeboards">
          <p className="quiet text-sm">From the sheer straight down to the water. Both sides, bow and stern.</p>
          <div className="grid grid-cols-2 gap-x-4 gap-y-2">
            {points.map((q, i) => (
              <label key={q.name} className="grid gap-0.5">
                <span className="text-sm">
                  {q.name}
                  {found?.doubtful === readingIndex(points, texts, i) && <b className="text-loud"> read again</b>}
                </span>
                <span className="flex items-center gap-1.5">
                  <input
                    className="input min-h-11 w-full text-base"
                    inputMode="decimal"
                    value={texts[q.name] ?? ""}
                    onFocus={() => setFocus(q.name)}
                    onBlur={() => setFocus(undefined)}
                    onChange={(e) => {
                      trying.reset();
                      setTexts({ ...texts, [q.name]: e.target.value });
                    }}
                  />
                  <span className="label-type quiet w-8">{units.smallUnit}</span>
                </span>
              </label>
            ))}
          </div>
          <Faults
            text={error ? (error instanceof NotANumber ? error.message : sayError(error)) : undefined}
            details={error instanceof Refusal ? error.details : []}
          />
          <button
            type="button"
            className="main-button justify-self-start"
            disabled={filled < 3 || trying.isPending}
            onClick={() => trying.mutate()}
          >
            Show the result
          </button>
        </Step>
      </ol>
      <div className="grid content-start gap-4">
        <BoatDrawing
          lines={bench.lines}
          name={bench.name}
          attitude={bench.state.now.attitude}
          planOnly
          dots={[
            ...points.map((q) => ({ name: q.name === focus ? q.name : "", at: q.at_m, shape: "opening" as const })),
            ...(found && !found.agrees && found.doubtful < 0 && !found.no_one_mass
              ? [
                  {
                    name: `${units.mass(found.more_kg)} ${units.massUnit}`,
                    at: found.at_m,
                    shape: "mass" as const,
                  },
                ]
              : []),
          ]}
        />
        {found && (
          <Answer
            found={found}
            units={units}
            mayKeep={may(me, "move")}
            keeping={keeping.isPending}
            onKeep={() => keeping.mutate()}
          />
        )}
        {keeping.isSuccess && !found && <p role="status">Kept, {ago(new Date().toISOString())}: it stands below.</p>}
      </div>
    </div>
  );
}

/** Only what was filled in is sent, so the answer's index counts those. */
function readingIndex(points: Surveys["points"], texts: Record<string, string>, i: number): number {
  const q = points[i];
  if (!q || !texts[q.name]?.trim()) return -2;
  return points.slice(0, i).filter((x) => texts[x.name]?.trim()).length;
}

export function Step({ n, title, children }: { n: number; title: string; children: React.ReactNode }) {
  return (
    <li className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">
        <span className="quiet pr-2">{n}</span>
        {title}
      </h2>
      {children}
    </li>
  );
}

type AnswerProps = { found: Finding; units: Units; mayKeep: boolean; keeping: boolean; onKeep: () => void };

function Answer({ found, units, mayKeep, keeping, onKeep }: AnswerProps) {
  const rest = 1 - found.suspects.reduce((sum, s) => sum + s.chance, 0);
  return (
    <section aria-label="Result" className="grid gap-3 border border-base-content p-4">
      <p className={`text-xl ${found.agrees && found.doubtful < 0 ? "" : "text-loud"}`} data-testid="finding">
        {found.sentence}
      </p>
      <p className="quiet text-sm">
        Mass by the check {units.mass(found.displacement_kg)} {units.massUnit}; the list says{" "}
        {units.mass(found.ledger_kg)}. Readings fit within {units.small(Math.max(...found.residuals_m.map(Math.abs)))}{" "}
        {units.smallUnit}. A hull whose measures are 1 % off would show as {units.mass(found.displacement_kg * 0.01)}{" "}
        {units.massUnit} all over.
      </p>
      {found.suspects.length > 0 && (
        <div>
          <h3 className="label-type text-lg">What may explain it</h3>
          <ul>
            {found.suspects.map((s) => (
              <li key={s.name} className="hairline-b grid grid-cols-[3.5rem_minmax(0,1fr)] gap-2 py-1.5">
                <span className="figure-type">{Math.round(s.chance * 100)} %</span>
                <span>
                  {s.name}, {units.mass(Math.abs(s.kg))} {units.massUnit} {s.kg > 0 ? "more" : "less"}.{" "}
                  <span className="quiet">{s.do}</span>
                </span>
              </li>
            ))}
            {rest > 0.02 && (
              <li className="quiet grid grid-cols-[3.5rem_minmax(0,1fr)] gap-2 py-1.5">
                <span className="figure-type">{Math.round(rest * 100)} %</span>
                <span>something else</span>
              </li>
            )}
          </ul>
        </div>
      )}
      {found.not_offered.map((n) => (
        <p key={n} className="text-loud">
          {n}
        </p>
      ))}
      {mayKeep && (
        <button type="button" className="plain-button justify-self-start" disabled={keeping} onClick={onKeep}>
          Keep this check
        </button>
      )}
    </section>
  );
}
