import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { type ChangeEvent, useEffect, useRef, useState } from "react";
import { freshGear } from "../../api/ask";
import { api, type Membership, newKey, Refusal, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { Page, Part } from "../../ui/Form";
import { Faults } from "../../ui/States";
import { CopyButton } from "./CopyButton";

type View = Schemas["ImportView"];
type Row = View["rows"][number];
type Chosen = Record<string, string>;

const LARGEST = 8 * 1024 * 1024;
const SHOWN = 400;
const ASK_MS = 700;
const FATES = { new: "new", change: "changes", same: "as it is", wrong: "wrong" };

/** The list out to a table and in again: every row's fate is shown before anything is kept. */
export default function TablePage({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const [table, setTable] = useState<Blob>();
  const [chosen, setChosen] = useState<Chosen>({});
  const [shown, setShown] = useState<View>(); // stays while the columns are read anew
  const [share, setShare] = useState(0); // of a large import that goes on
  const [read, setRead] = useState(0); // which table it is
  const crew = me.crew_id;
  const raw = {
    bodySerializer: (b: unknown) => b as BodyInit,
    headers: { "Content-Type": "text/csv" },
  };
  const preview = useMutation({
    mutationFn: ({ body, as }: { body: Blob; as: Chosen }) =>
      api.post("/api/crews/{crew}/import-preview", {
        params: { path: { crew }, query: { columns: JSON.stringify(as) } },
        body: body as unknown as string,
        ...raw,
      }),
    onSuccess: setShown,
  });
  const bring = useMutation({
    mutationFn: async (body: Blob) => {
      const key = newKey();
      const post = () =>
        api.post("/api/crews/{crew}/import", {
          params: { path: { crew }, query: { columns: JSON.stringify(chosen) } },
          body: body as unknown as string,
          bodySerializer: raw.bodySerializer,
          headers: { ...raw.headers, "Idempotency-Key": key },
        });
      setShare(0);
      let view = await post();
      while (view.running) {
        setShare(view.share);
        await new Promise((resolve) => setTimeout(resolve, ASK_MS));
        try {
          view = await api.get("/api/crews/{crew}/import-progress", { params: { path: { crew } } });
        } catch (e) {
          if (!(e instanceof Refusal)) continue; // the network is away; the import goes on
          if (e.status !== 404) throw e;
          view = await post(); // the program was started anew: with the same key nothing is done twice
        }
      }
      return view;
    },
    onSuccess: () => {
      setTable(undefined);
      preview.reset();
      freshGear(queries);
    },
  });
  const look = (body: Blob) => {
    bring.reset();
    setShown(undefined);
    setRead(read + 1);
    preview.reset();
    const whole = body.size <= LARGEST;
    setTable(whole ? body : undefined);
    preview.mutate({ body: whole ? body : body.slice(0, LARGEST + 1), as: chosen }); // of a larger one, so much that the answer can name the line
  };
  const choose = (heading: string, column: string) => {
    const as = { ...chosen, [heading]: column };
    setChosen(as);
    if (table) preview.mutate({ body: table, as });
  };
  const pick = (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    if (file) look(file);
    e.target.value = "";
  };
  const error = preview.error ?? bring.error;
  const mayChange = may(me, "change_gear");
  return (
    <Page
      title="Import and export"
      intro="The list as CSV, which every spreadsheet opens. A row with an id changes that piece; one without is new."
    >
      <Part title="Out">
        <a
          className="plain-button flex items-center gap-1.5 justify-self-start"
          href={`/api/crews/${crew}/gear.csv`}
          download="gear.csv"
        >
          <Download size={18} aria-hidden="true" /> The whole list
        </a>
      </Part>
      {mayChange && (
        <Part title="In">
          <p className="quiet max-w-2xl">
            As your spreadsheet has it: one line names the columns, and you say what a name means where the program does
            not know. Units may stand in the name or the cell. An empty cell leaves things as they are. Places are
            written like <span className="figure-type">Dunlin / port bench</span>,{" "}
            <span className="figure-type">ashore: boathouse / shelf A</span>,{" "}
            <span className="figure-type">in: pilk box</span>, <span className="figure-type">with: Ilse</span> or{" "}
            <span className="figure-type">quay</span>.
          </p>
          <div className="grid gap-2">
            <label className="plain-button flex cursor-pointer items-center justify-self-start focus-within:outline-3 focus-within:outline-accent">
              Choose a file
              <input type="file" accept=".csv,.tsv,.txt,text/csv" className="sr-only" onChange={pick} />
            </label>
            <label className="grid gap-0.5">
              <span className="text-sm">or paste cells copied from a spreadsheet</span>
              <textarea
                className="w-full border border-(--quiet) bg-base-100 px-3 py-2 font-mono text-sm"
                rows={3}
                value=""
                placeholder={"name\tcount\tkg"}
                onChange={(e) => look(new Blob([e.target.value]))}
              />
            </label>
          </div>
          {preview.isPending && <p role="status">Reading the table…</p>}
          <Faults text={error ? sayError(error) : undefined} details={error instanceof Refusal ? error.details : []} />
          {bring.isPending && share > 0 && (
            <label className="grid max-w-md gap-1">
              <span role="status">{Math.round(share * 100)} % is in. All of it is kept, or none.</span>
              <progress className="progress" value={share} max={1} />
            </label>
          )}
          {bring.data?.done && (
            <p role="status" className="text-lg">
              Done: {bring.data.new} new, {bring.data.change} changed, {bring.data.same} as they were.
            </p>
          )}
          {shown && table && (
            <>
              <Headings key={read} view={shown} onChoose={choose} />
              {shown.headings.some((h) => h.column === "") ? (
                <p className="quiet">
                  Then you see what becomes of{" "}
                  {shown.rows.length === 1 ? "the one row" : `each of the ${shown.rows.length} rows`}.
                </p>
              ) : (
                <Fates view={shown} units={units} busy={bring.isPending} onBring={() => bring.mutate(table)} />
              )}
            </>
          )}
        </Part>
      )}
      {mayChange && me.boats.length > 0 && (
        <Part title="Like another boat">
          <p className="quiet">
            New gear like what is aboard, on the quay, for a boat that is to carry the same. Masses become guesses.
          </p>
          <div className="flex flex-wrap gap-2">
            {me.boats.map((b) => (
              <CopyButton key={b.id} me={me} boat={b.id} name={b.name} />
            ))}
          </div>
        </Part>
      )}
    </Page>
  );
}

type HeadingsProps = { view: View; onChoose: (heading: string, column: string) => void };

/** What each column was read as; what is not known is asked, once. */
function Headings({ view, onChoose }: HeadingsProps) {
  const here = useRef<HTMLElement>(null);
  useEffect(() => {
    const within = here.current?.closest("main");
    if (here.current && within)
      within.scrollTop += here.current.getBoundingClientRect().top - within.getBoundingClientRect().top;
  }, []);
  const unknown = view.headings.filter((h) => h.column === "");
  const known = view.headings.filter((h) => h.column !== "");
  return (
    <section ref={here} aria-label="Columns" className="grid gap-2">
      <h3 className="label-type text-lg">Columns</h3>
      {unknown.length > 0 && (
        <>
          <p className="text-loud">
            Say what {unknown.length === 1 ? "this column is" : `these ${unknown.length} columns are`}, or leave{" "}
            {unknown.length === 1 ? "it" : "them"} out. It is remembered.
          </p>
          <HeadingList list={unknown} choices={view.choices} onChoose={onChoose} />
        </>
      )}
      {known.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2">
            {known.map((h) => h.heading).join(", ")}: read. Look, or change what they are.
          </summary>
          <HeadingList list={known} choices={view.choices} onChoose={onChoose} />
        </details>
      )}
    </section>
  );
}

type HeadingListProps = { list: View["headings"]; choices: View["choices"]; onChoose: HeadingsProps["onChoose"] };

function HeadingList({ list, choices, onChoose }: HeadingListProps) {
  return (
    <ul className="grid gap-x-6 gap-y-1 sm:grid-cols-2 lg:grid-cols-3">
      {list.map((h) => (
        <li key={h.heading} className="hairline-b grid grid-cols-2 items-center gap-2 py-1">
          <span className="min-w-0">
            <span className="block truncate font-semibold">{h.heading}</span>
            <span className="quiet block truncate text-sm">{h.sample || "empty"}</span>
          </span>
          <select
            aria-label={`${h.heading} is`}
            className={`select min-h-11 w-full text-base ${h.column === "" ? "border-2 border-accent" : ""}`}
            value={h.column}
            onChange={(e) => onChoose(h.heading, e.target.value)}
          >
            {h.column === "" && <option value="">choose…</option>}
            {choices.map((c) => (
              <option key={c.column} value={c.column}>
                {c.label}
              </option>
            ))}
          </select>
        </li>
      ))}
    </ul>
  );
}

/** A row as it was read, in the member's units. */
function asRead(r: Row["read"], units: Units): string {
  const size = r.size_m.map((m) => units.side(m)).join(" × ");
  const parts = [`${size} ${units.sideUnit}`, `${units.mass(r.kg, 2)} ${units.massUnit}`];
  if (r.count !== 1) parts.unshift(`${r.count} of`);
  if (r.tags.length > 0) parts.push(r.tags.map((t) => `#${t}`).join(" "));
  return [...parts, r.owner, r.place].filter(Boolean).join(", ");
}

type FatesProps = { view: View; units: Units; busy: boolean; onBring: () => void };

function Fates({ view, units, busy, onBring }: FatesProps) {
  const rows = [...view.rows].sort((a, b) => Number(b.fate === "wrong") - Number(a.fate === "wrong"));
  return (
    <section aria-label="Result for each row" className="grid gap-2">
      <div className="flex flex-wrap items-center gap-4">
        <p className="text-lg">
          {howMany(view.rows.length, "row")}: {view.new} new, {view.change} change, {view.same} as they are,{" "}
          <b className={view.wrong > 0 ? "text-loud" : ""}>{view.wrong} wrong</b>.
        </p>
        <button
          type="button"
          className="main-button"
          disabled={busy || view.wrong > 0 || view.new + view.change === 0}
          onClick={onBring}
        >
          {busy ? "Importing…" : "Import all rows"}
        </button>
      </div>
      {view.wrong > 0 && (
        <p>Correct the rows marked wrong and choose the file again: either all rows are imported or none.</p>
      )}
      <table className="w-full border-collapse text-left">
        <thead className="label-type quiet">
          <tr className="hairline-b">
            <th className="w-12 py-1 font-semibold">Line</th>
            <th className="w-20 font-semibold">Fate</th>
            <th className="font-semibold">Read as</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, SHOWN).map((r) => (
            <tr key={r.line} className="hairline-b align-top">
              <td className="figure-type">{r.line}</td>
              <td className={r.fate === "wrong" ? "text-loud font-bold" : ""}>{FATES[r.fate]}</td>
              <td className="py-1">
                <span className="font-semibold">{r.name}</span> {asRead(r.read, units)}
                {r.says.length > 0 && (
                  <span className={`block text-sm ${r.fate === "wrong" ? "text-loud" : ""}`}>{r.says.join("; ")}</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > SHOWN && <p className="quiet">and {rows.length - SHOWN} more rows</p>}
    </section>
  );
}
