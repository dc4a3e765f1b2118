import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { CalendarDays } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type GearRow, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Page, Part } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";

type Row = Schemas["DueRow"];

/** What is due: now, before the next trip, after it; what to buy and mend. */
export default function DuePage({ me }: { me: Membership }) {
  const due = useQuery(askGear.due(me.crew_id));
  if (due.isPending) return <Waiting text="Loading what is due…" />;
  if (due.isError) return <ErrorNote text={sayError(due.error)} onRetry={() => due.refetch()} />;
  const d = due.data;
  const of = (when: Row["when"]) => d.rows.filter((r) => r.when === when);
  const now = of("now").length + of("before").length;
  const next = d.next ? `the next trip, ${d.next.name}, ${day(d.next.starts_on)}` : "a next trip (none is planned)";
  return (
    <Page title="What is due">
      <p className="text-2xl leading-tight">
        {now > 0 ? (
          <b className="text-loud">
            {now} to see to before {next}.
          </b>
        ) : (
          <b>Nothing is due before {next}.</b>
        )}
      </p>
      <List title="Out of date" me={me} rows={of("now")} />
      <List title={d.next ? `Before or on ${d.next.name}` : "Before the next trip"} me={me} rows={of("before")} />
      <Gear title="Buy more" rows={d.restock} says={(g) => `${g.count} left; buy at ${g.restock_at}`} />
      <Gear title="Repair or replace" rows={d.worn} says={(g) => g.condition ?? ""} />
      <List title="Later" me={me} rows={of("after")} />
      <Calendar me={me} />
    </Page>
  );
}

function List({ title, me, rows }: { title: string; me: Membership; rows: Row[] }) {
  if (rows.length === 0) return null;
  return (
    <Part title={title}>
      <ul>
        {rows.map((r) => (
          <Item
            key={(r.gear_id ?? r.fitting_id ?? r.paper_id ?? `${r.boat_id}${r.bank}`) + r.kind + (r.service_id ?? "")}
            me={me}
            r={r}
          />
        ))}
      </ul>
    </Part>
  );
}

function pageOf(r: Row) {
  if (r.fitting_id) return `/boats/${r.boat_id}/rigging?fitting=${r.fitting_id}`;
  if (r.bank) return `/boats/${r.boat_id}/power?at=${r.bank}`;
  return r.paper_id ? `/papers#${r.paper_id}` : `/gear/${r.gear_id}`;
}

function Item({ me, r }: { me: Membership; r: Row }) {
  const queries = useQueryClient();
  const serviced = useMutation({
    mutationFn: () =>
      r.fitting_id
        ? api.post("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/done", {
            params: { path: { crew: me.crew_id, boat: r.boat_id ?? "", fitting: r.fitting_id } },
            body: { looked: true, version: r.version ?? 0 },
          })
        : api.post("/api/crews/{crew}/gear/{gear}/services/{service}/done", {
            params: { path: { crew: me.crew_id, gear: r.gear_id ?? "", service: r.service_id ?? "" } },
            body: { version: r.version ?? 0 },
          }),
    onSettled: () => freshGear(queries),
  });
  return (
    <li className="hairline-b grid min-h-12 items-center gap-x-4 py-1 sm:grid-cols-[14rem_10rem_1fr_auto]">
      <Link to={pageOf(r)} className="leading-tight hover:underline">
        {r.name}
      </Link>
      <span className="leading-tight">{r.what}</span>
      <span className={`leading-tight ${r.when === "now" ? "text-loud" : ""}`}>
        {r.left}
        {r.on ? `, ${day(r.on)}` : ""}
        {r.trip ? `, on ${r.trip}` : ""}
        <span className="quiet block text-sm">{r.where}</span>
      </span>
      {r.kind === "service" && !r.bank && may(me, "change_gear") && (
        <button type="button" className="plain-button" disabled={serviced.isPending} onClick={() => serviced.mutate()}>
          Done today
        </button>
      )}
      {serviced.error && (
        <span role="alert" className="text-loud">
          {sayError(serviced.error)}
        </span>
      )}
    </li>
  );
}

function Gear({ title, rows, says }: { title: string; rows: GearRow[]; says: (g: GearRow) => string }) {
  if (rows.length === 0) return null;
  return (
    <Part title={title}>
      <ul>
        {rows.map((g) => (
          <li key={g.id} className="hairline-b grid min-h-12 items-center gap-x-4 py-1 sm:grid-cols-[14rem_10rem_1fr]">
            <Link to={`/gear/${g.id}`} className="leading-tight hover:underline">
              {g.name}
            </Link>
            <span>{says(g)}</span>
            <span className="quiet leading-tight">{g.spot.text}</span>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Calendar({ me }: { me: Membership }) {
  const [copied, setCopied] = useState(false);
  const make = useMutation({
    mutationFn: () => api.post("/api/crews/{crew}/calendar", { params: { path: { crew: me.crew_id } } }),
  });
  const address = make.data && `${window.location.origin}${make.data.path}`;
  return (
    <Part title="In your calendar">
      <p className="quiet max-w-2xl">
        Dates and trips as iCalendar. The secret address keeps your calendar up to date by itself, without papers:
        whoever has it can read the list. A new one ends the old.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <a
          className="plain-button flex items-center gap-1.5"
          href={`/api/crews/${me.crew_id}/due.ics`}
          download="due.ics"
        >
          <CalendarDays size={18} aria-hidden="true" /> File
        </a>
        <button type="button" className="plain-button" disabled={make.isPending} onClick={() => make.mutate()}>
          Make a secret address
        </button>
        {make.error && (
          <span role="alert" className="text-loud">
            {sayError(make.error)}
          </span>
        )}
      </div>
      {address && (
        <div className="flex items-center gap-2">
          <input
            aria-label="Secret address of your calendar"
            className="input min-h-11 flex-1 font-mono text-sm"
            readOnly
            value={address}
          />
          <button
            type="button"
            className="plain-button"
            onClick={() => navigator.clipboard?.writeText(address).then(() => setCopied(true))}
          >
            {copied ? "Copied" : "Copy"}
          </button>
        </div>
      )}
    </Part>
  );
}
