import { Link, useParams } from "react-router";
import { type Membership, sayError } from "../../api/client";
import { clock } from "../../domain/clock";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useTitle } from "../../ui/useTitle";
import { CopyTrip } from "./CopyTrip";
import { type Line, type StageView, type TripPage, useTrip } from "./useTrip";

const STAGES = Object.fromEntries(WORDS.stages);

/** A trip: whether she is ready, what each stage waits for, and what the verdict rests on. */
export default function ReadyPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const t = useTrip(me, trip);
  useTitle(t.page.data?.name);
  if (t.page.isPending) return <Waiting text="Looking at the trip…" />;
  if (t.page.isError) return <ErrorNote text={sayError(t.page.error)} onRetry={() => t.page.refetch()} />;
  const p = t.page.data;
  const changes = may(me, "change_gear") && !p.logged;
  const wrong = p.lines.filter((l) => l.level !== "ok");
  const holds = p.lines.filter((l) => l.level === "ok");
  const error = t.settle.error ?? t.accept.error;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100 lg:grid lg:grid-cols-[minmax(0,1fr)_20rem] lg:overflow-hidden">
      <div className="grid content-start gap-5 p-4 lg:overflow-y-auto lg:p-6">
        <div>
          <p className="label-type text-lg">
            {p.name}
            <span className="quiet">, {about(p)}</span>
          </p>
          <h1 className={`label-type text-3xl leading-tight ${p.ready === "not_ready" ? "text-loud" : ""}`}>
            <span role="status" data-testid="verdict">
              {p.headline}
            </span>
          </h1>
        </div>
        {error && (
          <p role="alert" className="text-loud">
            {sayError(error)}
          </p>
        )}
        <ul aria-label="Stages" className="grid border-base-content border-t">
          {p.stages
            .filter((s) => s.stage !== "ready")
            .map((s) => (
              <StageRow
                key={s.stage}
                s={s}
                to={where(s, p)}
                settle={changes ? (settled) => t.settle.mutate({ stage: s.stage, settled }) : undefined}
              />
            ))}
        </ul>
        {wrong.length > 0 && (
          <section aria-label="What the verdict rests on" className="grid gap-1">
            <h2 className="label-type text-xl">What the verdict rests on</h2>
            <ul>
              {wrong.map((l) => (
                <VerdictRow
                  key={l.key}
                  l={l}
                  accept={
                    may(me, "change_boat") && !p.logged ? (on) => t.accept.mutate({ line: l, accepted: on }) : undefined
                  }
                />
              ))}
            </ul>
          </section>
        )}
        {holds.length > 0 && (
          <details>
            <summary className="label-type min-h-11 cursor-pointer py-2 text-xl">What holds: {holds.length}</summary>
            <ul className="grid gap-1">
              {holds.map((l) => (
                <li key={l.key} className="leading-snug">
                  {l.sentence} <span className="quiet text-sm">{l.limit}</span>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      <aside
        aria-label="The times"
        className="grid content-start gap-5 border-(--hair) bg-base-200 p-4 max-lg:border-t lg:overflow-y-auto lg:border-l"
      >
        {p.times[0] && (
          <section aria-label="Timetable" className="grid gap-1">
            <h2 className="label-type text-xl">Begin at {clock(p.times[0].from_min)}</h2>
            <p className="quiet text-sm">
              {[p.light?.words, ...p.marks.map((m) => `${clock(m.at_min)} ${m.name}.`)].filter(Boolean).join(" ")}
            </p>
            <ol>
              {p.times.map((x, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a phase is its place in the day
                <li key={i} className="hairline-b grid grid-cols-[4rem_minmax(0,1fr)] py-0.5">
                  <span className="figure-type text-lg">{clock(x.from_min)}</span>
                  <span>{x.name}</span>
                </li>
              ))}
              <li className="grid grid-cols-[4rem_minmax(0,1fr)] py-0.5">
                <span className="figure-type text-lg">{clock(p.times.at(-1)?.to_min ?? 0)}</span>
                <span>done</span>
              </li>
            </ol>
          </section>
        )}
        {p.unchecked.length > 0 && (
          <section aria-label="Not checked" className="grid gap-0.5">
            <h2 className="label-type text-lg">Not checked</h2>
            <ul className="quiet grid gap-0.5 text-sm leading-snug">
              {p.unchecked.map((u) => (
                <li key={u}>{u}</li>
              ))}
            </ul>
          </section>
        )}
        {may(me, "change_gear") && <CopyTrip me={me} trip={p} text="Copy the trip" />}
      </aside>
    </main>
  );
}

function about(p: TripPage): string {
  return [
    p.starts_on === p.ends_on ? day(p.starts_on) : `${day(p.starts_on)} to ${day(p.ends_on)}`,
    p.boat,
    p.water,
    Object.fromEntries(WORDS.trip_kinds)[p.kind ?? "day"],
  ]
    .filter(Boolean)
    .join(", ");
}

/** Where a stage is worked on. */
function where(s: StageView, p: TripPage): string {
  return `/trips/${p.id}/${s.stage}`;
}

const MOST = 3;

function StageRow({ s, to, settle }: { s: StageView; to: string; settle?: (settled: boolean) => void }) {
  const settled = s.state === "settled" || s.state === "changed";
  return (
    <li className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-2" data-stage={s.stage}>
      <div className="grid gap-x-4 sm:grid-cols-[8rem_minmax(0,1fr)]">
        <Link to={to} className="label-type flex min-h-11 items-center text-xl hover:underline">
          {STAGES[s.stage]}
        </Link>
        <div className="self-center">
          <p className={`leading-snug ${s.state === "waits" || s.state === "changed" ? "text-loud" : ""}`}>
            {s.state === "settled"
              ? `Settled by ${s.by}: ${s.word}`
              : s.state === "changed"
                ? "Changed since it was settled"
                : s.word}
          </p>
          {s.was.slice(0, MOST).map((w) => (
            <p key={w} className="text-sm leading-snug">
              No longer: {w}
            </p>
          ))}
          {s.state !== "settled" &&
            s.waits.slice(0, MOST).map((w) => (
              <p key={w} className="quiet text-sm leading-snug">
                {w}
              </p>
            ))}
          {s.state !== "settled" && s.waits.length > MOST && (
            <p className="quiet text-sm">and {s.waits.length - MOST} more</p>
          )}
        </div>
      </div>
      {settle && (
        <button
          type="button"
          className="plain-button"
          aria-label={`${settled && s.state !== "changed" ? "Open again" : "Settle"}: ${STAGES[s.stage]}`}
          onClick={() => settle(!settled || s.state === "changed")}
        >
          {settled && s.state !== "changed" ? "Open again" : "Settle"}
        </button>
      )}
    </li>
  );
}

const CERTAIN: Record<string, string> = {
  sure: "sure, by the errors of the masses",
  likely: "likely kept",
  open: "may be kept or not: some masses are guesses",
  unlikely: "hardly kept",
  broken: "surely not kept",
};

const LEVEL: Record<Line["level"], string> = { ok: "holds", caution: "caution", stop: "not ready" };

function VerdictRow({ l, accept }: { l: Line; accept?: (on: boolean) => void }) {
  const taken = l.accepted?.held;
  return (
    <li className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-2">
      <div>
        <p className="leading-snug">
          <b className={l.level === "stop" && !taken ? "text-loud" : ""}>{taken ? "accepted" : LEVEL[l.level]}:</b>{" "}
          {l.sentence}
        </p>
        <p className="quiet text-sm leading-snug">
          {[
            l.limit && `held to ${l.limit}`,
            l.certain && CERTAIN[l.certain],
            l.accepted &&
              (taken
                ? `${l.accepted.by} accepted it`
                : `${l.accepted.by} accepted it when it said: ${l.accepted.said}`),
          ]
            .filter(Boolean)
            .join("; ")}
        </p>
      </div>
      {accept && (
        <button
          type="button"
          className="plain-button"
          aria-label={`${taken ? "Take back" : "Accept"}: ${l.sentence}`}
          onClick={() => accept(!taken)}
        >
          {taken ? "Take back" : "Accept"}
        </button>
      )}
    </li>
  );
}
