import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { type ChangeEvent, useState } from "react";
import { freshGear } from "../../api/ask";
import { api, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Page, Part } from "../../ui/Form";
import { Faults } from "../../ui/States";
import { CopyButton } from "./CopyButton";

type View = Schemas["ImportView"];

const LARGEST = 8 * 1024 * 1024;
const SHOWN = 400;
const FATES = { new: "new", change: "changes", same: "as it is", wrong: "wrong" };

/** The list out to a table and in again: every row's fate is shown before anything is kept. */
export default function TablePage({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const [table, setTable] = useState<Blob>();
  const crew = me.crew_id;
  const raw = {
    bodySerializer: (b: unknown) => b as BodyInit,
    headers: { "Content-Type": "text/csv" },
  };
  const preview = useMutation({
    mutationFn: (body: Blob) =>
      api.post("/api/crews/{crew}/import-preview", {
        params: { path: { crew } },
        body: body as unknown as string,
        ...raw,
      }),
  });
  const bring = useMutation({
    mutationFn: (body: Blob) =>
      api.post("/api/crews/{crew}/import", {
        params: { path: { crew } },
        body: body as unknown as string,
        ...raw,
      }),
    onSuccess: () => {
      setTable(undefined);
      preview.reset();
      freshGear(queries);
    },
  });
  const look = (body: Blob) => {
    bring.reset();
    preview.reset();
    const whole = body.size <= LARGEST;
    setTable(whole ? body : undefined);
    preview.mutate(whole ? body : body.slice(0, LARGEST + 1)); // of a larger one, so much that the answer can name the line
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
            The first line names the columns: <span className="figure-type">name</span> and any of the others that the
            list has when it goes out. Inches and pounds go in{" "}
            <span className="figure-type">length_in, breadth_in, height_in, lb</span>. An empty cell leaves things as
            they are. Places are written like <span className="figure-type">Dunlin / port bench</span>,{" "}
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
          {bring.data?.done && (
            <p role="status" className="text-lg">
              Done: {bring.data.new} new, {bring.data.change} changed, {bring.data.same} as they were.
            </p>
          )}
          {preview.data && table && (
            <Fates view={preview.data} busy={bring.isPending} onBring={() => bring.mutate(table)} />
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

function Fates({ view, busy, onBring }: { view: View; busy: boolean; onBring: () => void }) {
  const rows = [...view.rows].sort((a, b) => Number(b.fate === "wrong") - Number(a.fate === "wrong"));
  return (
    <section aria-label="Result for each row" className="grid gap-2">
      <div className="flex flex-wrap items-center gap-4">
        <p className="text-lg">
          {view.rows.length} rows: {view.new} new, {view.change} change, {view.same} as they are,{" "}
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
            <th className="w-16 py-1 font-semibold">Line</th>
            <th className="w-24 font-semibold">Fate</th>
            <th className="font-semibold">Name</th>
            <th className="font-semibold">Says</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, SHOWN).map((r) => (
            <tr key={r.line} className="hairline-b align-top">
              <td className="figure-type">{r.line}</td>
              <td className={r.fate === "wrong" ? "text-loud font-bold" : ""}>{FATES[r.fate]}</td>
              <td className="pr-3">{r.name}</td>
              <td className="text-sm">{r.says.join(" ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > SHOWN && <p className="quiet">and {rows.length - SHOWN} more rows</p>}
    </section>
  );
}
