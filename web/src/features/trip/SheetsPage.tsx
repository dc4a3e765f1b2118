import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askTrip, writeTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Loose, Page, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

type Sheet = Schemas["Sheet"];

/** What is printed of a trip, and what someone ashore and guests are told. */
export default function SheetsPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const sheets = useQuery(askTrip.sheets(me.crew_id, trip));
  const day = useQuery(askTrip.day(me.crew_id, trip));
  useTitle("Sheets");
  if (sheets.isPending || day.isPending) return <Waiting text="Writing the sheets…" />;
  if (sheets.isError) return <ErrorNote text={sayError(sheets.error)} onRetry={() => sheets.refetch()} />;
  if (day.isError) return <ErrorNote text={sayError(day.error)} onRetry={() => day.refetch()} />;
  const pdf = (key: string) => `/api/crews/${me.crew_id}/trips/${trip}/sheets.pdf${key ? `?sheet=${key}` : ""}`;
  return (
    <Page title="Sheets">
      <p className="no-print flex flex-wrap gap-2">
        <a className="main-button flex items-center" href={pdf("")}>
          All as PDF
        </a>
        {sheets.data.map((s) => (
          <a key={s.key} className="plain-button flex items-center" href={pdf(s.key)}>
            {s.title}
          </a>
        ))}
      </p>
      {may(me, "change_gear") && !day.data.logged && (
        <div className="no-print grid gap-5 lg:grid-cols-2">
          <Ashore key={day.data.trip_id} me={me} view={day.data} />
          <Guests me={me} trip={trip} />
        </div>
      )}
      <div className="grid items-start gap-5 lg:grid-cols-2">
        {sheets.data.map((s) => (
          <OneSheet key={s.key} s={s} />
        ))}
      </div>
    </Page>
  );
}

function OneSheet({ s }: { s: Sheet }) {
  return (
    <article aria-label={s.title} className="grid gap-3 border border-(--hair) p-4 print:border-0">
      <div>
        <h2 className="label-type text-2xl leading-tight">{s.title}</h2>
        <p className="quiet text-sm">{s.about}</p>
      </div>
      {s.sections.map((sec) => (
        <section key={sec.title}>
          <h3 className="label-type border-base-content border-b text-lg">{sec.title}</h3>
          <ul>
            {(sec.lines ?? []).map((l, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is its place on the sheet
              <li key={i} className="hairline-b grid grid-cols-[auto_minmax(0,1fr)_auto] gap-x-2 py-0.5 leading-snug">
                <span aria-hidden="true">{l.tick ? "☐" : ""}</span>
                <span>{l.text}</span>
                <span className="figure-type">{l.right}</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
      {s.foot && <p className="quiet text-sm leading-snug">{s.foot}</p>}
    </article>
  );
}

/** What someone ashore is told beside what the trip says. */
function Ashore({ me, view }: { me: Membership; view: Schemas["DayView"] }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.floatplan.${view.trip_id}`;
  const was = view.plan.float_plan ?? {};
  const [f, setF] = useDraft(`${scope}.plan`, {
    looks: was.looks ?? "",
    contact: was.contact ?? "",
    call: was.call ?? "",
    worry: String(was.worry_min || 60),
    guests: was.guests ?? "",
  });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  return (
    <section aria-label="For someone ashore" className="grid content-start gap-2">
      <h2 className="label-type text-xl">For someone ashore, and for guests</h2>
      <SaveForm
        name="For someone ashore"
        draft={scope}
        button="Keep it"
        save={() =>
          writeTrip.day(
            me.crew_id,
            view.trip_id,
            {
              ...view.plan,
              float_plan: {
                looks: f.looks,
                contact: f.contact,
                call: f.call,
                worry_min: Math.round(Number(f.worry)) || 0,
                guests: f.guests,
              },
            },
            view.version,
          )
        }
        onSaved={() => freshGear(queries)}
      >
        <Loose label="What she looks like from afar" max={200} value={f.looks} onChange={(looks) => put({ looks })} />
        <Loose label="Who has this plan" max={120} value={f.contact} onChange={(contact) => put({ contact })} />
        <Loose label="Whom they call" max={200} value={f.call} onChange={(call) => put({ call })} />
        <Loose
          label="When: so long after we are to be back"
          unit="min"
          value={f.worry}
          onChange={(worry) => put({ worry })}
        />
        <Loose
          label="What guests are told: where to be, what to bring"
          max={600}
          value={f.guests}
          onChange={(guests) => put({ guests })}
        />
      </SaveForm>
    </section>
  );
}

/** A link by which guests see what they need. */
function Guests({ me, trip }: { me: Membership; trip: string }) {
  const make = useMutation({ mutationFn: () => writeTrip.guestLink(me.crew_id, trip) });
  const end = useMutation({ mutationFn: () => writeTrip.noGuestLink(me.crew_id, trip), onSuccess: () => make.reset() });
  const link = make.data && `${window.location.origin}/guest#${make.data.token}`;
  const error = make.error ?? end.error;
  return (
    <section aria-label="A link for guests" className="grid content-start gap-2">
      <h2 className="label-type text-xl">A link for guests</h2>
      <p className="quiet leading-snug">
        It shows where and when, the boat, who is skipper, and what you wrote for guests: no names, masses or gear. It
        ends two days after the trip; a new one ends the older.
      </p>
      {error && (
        <p role="alert" className="text-loud">
          {sayError(error)}
        </p>
      )}
      {link && (
        <p className="break-all border border-base-content p-3" data-testid="guest-link">
          {link}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="plain-button" disabled={make.isPending} onClick={() => make.mutate()}>
          Make the link
        </button>
        {link && (
          <>
            <button type="button" className="plain-button" onClick={() => navigator.clipboard?.writeText(link)}>
              Copy it
            </button>
            <button type="button" className="plain-button" onClick={() => end.mutate()}>
              End the link
            </button>
          </>
        )}
      </div>
    </section>
  );
}
