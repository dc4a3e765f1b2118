import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { askSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { Page } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";

type Row = Schemas["DiaryRow"] & { job?: boolean };

const KINDS = { move: "", undo: "", redo: "", new: "listed: " }; // what was taken back or done again says so itself

/** All that was moved on a boat, day by day, and by whom. */
export default function DiaryPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const diary = useInfiniteQuery(askBoat.diary(me.crew_id, boat));
  const jobs = useQuery(askSafety.jobs(me.crew_id, boat));
  if (diary.isPending) return <Waiting text="Reading the diary…" />;
  if (diary.isError) return <ErrorNote text={sayError(diary.error)} onRetry={() => diary.refetch()} />;
  const rows = diary.data.pages.flatMap((p) => p.rows);
  const days = byDay(withJobs(rows, jobs.data ?? [], diary.hasNextPage));
  return (
    <Page
      title={`${bench.data?.name ?? "Her"}'s diary`}
      intro="All that was moved on her page, what broke, and by whom."
    >
      {days.length === 0 && <p className="quiet">Nothing was moved yet.</p>}
      {days.map(([day, rows]) => (
        <section key={day} aria-label={day}>
          <h2 className="label-type border-base-content border-b pb-1 text-xl">{day}</h2>
          <ul>
            {rows.map((r) => (
              <li
                key={`${r.seq} ${r.what}`}
                className="hairline-b grid min-h-11 grid-cols-[3.5rem_5rem_minmax(0,1fr)] items-center gap-2"
              >
                <span className="figure-type quiet">{timeOf(r.at)}</span>
                <span className="truncate">{r.by}</span>
                <span className="leading-tight">
                  {KINDS[r.kind]}
                  {r.job ? (
                    <Link className="hover:underline" to={`/boats/${boat}/jobs`}>
                      {r.what}
                    </Link>
                  ) : r.gear_id ? (
                    <Link className="hover:underline" to={`/gear/${r.gear_id}`}>
                      {r.what}
                    </Link>
                  ) : (
                    r.what
                  )}
                </span>
              </li>
            ))}
          </ul>
        </section>
      ))}
      {diary.hasNextPage && (
        <button
          type="button"
          className="plain-button justify-self-start"
          disabled={diary.isFetchingNextPage}
          onClick={() => diary.fetchNextPage()}
        >
          Earlier
        </button>
      )}
    </Page>
  );
}

/** What broke and what was done about it, among the moves; not what is older than the moves that are shown. */
function withJobs(rows: Row[], jobs: Schemas["JobView"][], more: boolean): Row[] {
  const oldest = more ? (rows.at(-1)?.at ?? "") : "";
  const told = jobs.flatMap((j) =>
    j.story.map(
      (s, i): Row => ({
        seq: -1 - i,
        at: s.on,
        by: s.by,
        kind: "move",
        what: i === 0 ? `${j.kind}: ${j.what}` : `${j.what}: ${s.what}`,
        job: true,
      }),
    ),
  );
  return [...rows, ...told.filter((r) => r.at >= oldest)].sort((a, b) => b.at.localeCompare(a.at));
}

function byDay(rows: Row[]): [string, Row[]][] {
  const days = new Map<string, Row[]>();
  for (const r of rows) {
    const day = new Date(r.at).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
    days.set(day, [...(days.get(day) ?? []), r]);
  }
  return [...days];
}

function timeOf(at: string): string {
  return new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}
