import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { freshGear, freshUndo } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { AddPicture } from "../../parts/AddPicture";
import { Checks, Choice, Loose, Page, RemoveButton, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { ago } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

type Job = Schemas["JobView"];

const STATES = Object.fromEntries(WORDS.job_states);
const KINDS = Object.fromEntries(WORDS.job_kinds);

/** What went wrong aboard, noted in one press, and what was done about it. */
export default function JobsPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const jobs = useQuery(askSafety.jobs(me.crew_id, boat));
  const name = me.boats.find((b) => b.id === boat)?.name ?? "her";
  useTitle(`Jobs, ${name}`);
  if (jobs.isPending) return <Waiting text="Looking what is to be mended…" />;
  if (jobs.isError) return <ErrorNote text={sayError(jobs.error)} onRetry={() => jobs.refetch()} />;
  const open = jobs.data.filter((j) => j.state !== "done");
  const done = jobs.data.filter((j) => j.state === "done");
  const holds = open.filter((j) => j.holds).length;
  return (
    <Page title={`Jobs on ${name}`}>
      <p className="text-2xl leading-tight" role="status">
        {open.length === 0 ? (
          <b>Nothing is to be mended.</b>
        ) : (
          <b className={holds > 0 ? "text-loud" : ""}>
            {open.length} to see to
            {holds > 0 &&
              (open.length === 1
                ? "; it holds the next trip"
                : `, ${holds} of which ${holds === 1 ? "holds" : "hold"} the next trip`)}
            .
          </b>
        )}
      </p>
      {may(me, "move") && <Report key={boat} me={me} boat={boat} />}
      <List title="To see to" me={me} boat={boat} jobs={open} />
      <List title="Done" me={me} boat={boat} jobs={done} />
    </Page>
  );
}

/** One press notes it; a picture may follow. */
function Report({ me, boat }: { me: Membership; boat: string }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.job.${boat}`;
  const [f, setF] = useDraft(`${scope}.job`, { what: "", holds: false });
  const [last, setLast] = useState<string>();
  const note = useMutation({
    mutationFn: (kind: Job["kind"]) =>
      writeSafety.report(me.crew_id, boat, { kind, what: f.what.trim(), holds: f.holds }),
    onSuccess: (made) => {
      setLast(made.id);
      setF({ what: "", holds: false });
      freshGear(queries);
    },
  });
  return (
    <form
      className="grid gap-2 border border-base-content p-3"
      aria-label="Something broke"
      onSubmit={(e) => e.preventDefault()}
    >
      <label className="grid gap-0.5">
        <span className="label-type text-xl">What happened, or what broke?</span>
        <input
          className="input min-h-14 w-full text-lg"
          maxLength={200}
          value={f.what}
          onChange={(e) => setF({ ...f, what: e.target.value })}
        />
      </label>
      <Checks
        all={[["holds", "She does not go out until it is done"]]}
        on={() => f.holds}
        set={(_, holds) => setF({ ...f, holds })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="main-button"
          disabled={!f.what.trim() || note.isPending}
          onClick={() => note.mutate("defect")}
        >
          It is broken
        </button>
        <button
          type="button"
          className="plain-button"
          disabled={!f.what.trim() || note.isPending}
          onClick={() => note.mutate("incident")}
        >
          It happened
        </button>
        {note.error && (
          <span role="alert" className="text-loud">
            {sayError(note.error)}
          </span>
        )}
        {last && (
          <span className="flex flex-wrap items-center gap-2" role="status">
            Noted.
            <AddPicture
              send={(file) => writeSafety.jobPhoto(me.crew_id, boat, last, file)}
              onSent={() => {
                setLast(undefined);
                freshGear(queries);
              }}
            />
          </span>
        )}
      </div>
    </form>
  );
}

function List({ title, me, boat, jobs }: { title: string; me: Membership; boat: string; jobs: Job[] }) {
  if (jobs.length === 0) return null;
  return (
    <section aria-label={title}>
      <h2 className="label-type border-base-content border-b pb-1 text-xl">{title}</h2>
      <ul>
        {jobs.map((j) => (
          <Row key={j.id} me={me} boat={boat} j={j} />
        ))}
      </ul>
    </section>
  );
}

function Row({ me, boat, j }: { me: Membership; boat: string; j: Job }) {
  const [open, setOpen] = useState(false);
  const queries = useQueryClient();
  const changes = may(me, "change_gear");
  const set = useMutation({
    mutationFn: (state: Job["state"]) =>
      writeSafety.changeJob(me.crew_id, boat, j.id, { state, holds: j.holds, version: j.version }),
    onSettled: () => freshGear(queries),
  });
  return (
    <li className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 py-2" data-job={j.what}>
      <div>
        <p className="text-lg leading-tight">
          {j.what}
          {j.holds && j.state !== "done" && <b className="text-loud"> holds</b>}
        </p>
        <p className="quiet text-sm leading-snug">
          {[
            KINDS[j.kind],
            STATES[j.state],
            `${j.by}, ${ago(j.at)}`,
            j.trip && `on ${j.trip}`,
            j.photos > 0 && `${j.photos} ${j.photos === 1 ? "picture" : "pictures"}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </p>
        {set.error && (
          <p role="alert" className="text-loud">
            {sayError(set.error)}
          </p>
        )}
      </div>
      <span className="flex flex-wrap justify-end gap-2">
        {changes && j.state !== "done" && (
          <button
            type="button"
            className="main-button"
            aria-label={`Done: ${j.what}`}
            disabled={set.isPending}
            onClick={() => set.mutate("done")}
          >
            Done
          </button>
        )}
        <button
          type="button"
          className="plain-button"
          aria-expanded={open}
          aria-label={`${open ? "Shut" : "Open"}: ${j.what}`}
          onClick={() => setOpen(!open)}
        >
          {open ? "Shut" : "Open"}
        </button>
      </span>
      {open && <Detail me={me} boat={boat} j={j} />}
    </li>
  );
}

function Detail({ me, boat, j }: { me: Membership; boat: string; j: Job }) {
  const queries = useQueryClient();
  const photos = useQuery(askSafety.jobPhotos(me.crew_id, boat, j.id));
  const scope = `${me.crew_id}.jobchange.${j.id}`;
  const [f, setF] = useDraft(`${scope}.change`, { state: j.state, holds: j.holds, note: "" });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  const fresh = () => {
    freshGear(queries);
    freshUndo(queries);
  };
  return (
    <div className="col-span-2 grid gap-3 py-2">
      <ol aria-label="What was done">
        {j.story.map((s) => (
          <li key={s.on + s.what} className="leading-snug">
            <span className="quiet">
              {ago(s.on)}, {s.by}:
            </span>{" "}
            {s.what}
          </li>
        ))}
      </ol>
      {j.gear_id && (
        <Link className="min-h-11 underline" to={`/gear/${j.gear_id}`}>
          {j.gear}
        </Link>
      )}
      <div className="flex flex-wrap gap-2">
        {(photos.data ?? []).map((p) => (
          <img
            key={p.id}
            className="max-h-72 border border-(--hair)"
            src={`/api/crews/${me.crew_id}/boats/${boat}/jobs/${j.id}/photos/${p.id}`}
            alt={`${j.what}, as ${p.by} took it`}
          />
        ))}
      </div>
      {may(me, "move") && (
        <AddPicture send={(file) => writeSafety.jobPhoto(me.crew_id, boat, j.id, file)} onSent={fresh} />
      )}
      {may(me, "change_gear") && (
        <SaveForm
          name={`What was done: ${j.what}`}
          draft={scope}
          button="Note it"
          save={() =>
            writeSafety.changeJob(me.crew_id, boat, j.id, { ...f, note: f.note || undefined, version: j.version })
          }
          onSaved={() => {
            put({ note: "" });
            fresh();
          }}
          extra={
            <RemoveButton
              text="Remove"
              name={j.what}
              remove={() => writeSafety.noJob(me.crew_id, boat, j.id)}
              onRemoved={fresh}
            />
          }
        >
          <div className="grid gap-x-4 gap-y-2 sm:grid-cols-[12rem_minmax(0,1fr)]">
            <Choice label="It is" value={f.state} options={WORDS.job_states} onChange={(state) => put({ state })} />
            <Loose label="What was done" max={200} value={f.note} onChange={(text) => put({ note: text })} />
          </div>
          <Checks
            all={[["holds", "She does not go out until it is done"]]}
            on={() => f.holds}
            set={(_, holds) => put({ holds })}
          />
        </SaveForm>
      )}
    </div>
  );
}
