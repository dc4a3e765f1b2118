import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { freshGear } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Checks, Loose, Page, Part, RemoveButton, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { ago } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";
import { PackEditor } from "./PackEditor";

type Rules = Schemas["RulesView"];
type Pack = Schemas["PackView"];

/** The packs of rules: which hold, what they ask, and the crew's own. */
export default function RulesPage({ me }: { me: Membership }) {
  const rules = useQuery(askSafety.packs(me.crew_id));
  if (rules.isPending) return <Waiting text="Reading the rules…" />;
  if (rules.isError) return <ErrorNote text={sayError(rules.error)} onRetry={() => rules.refetch()} />;
  return (
    <Page
      title="Rules"
      intro="Trips are held against the packs that are on. Where several ask for the same thing, the stricter wins."
    >
      <Chosen me={me} rules={rules.data} />
      <p className="max-w-2xl leading-snug">
        <b>{rules.data.law}</b> <span className="quiet">What is from memory says so; practice has no source.</span>
      </p>
      {rules.data.packs.map((p) => (
        <PackPart key={p.name} me={me} p={p} all={rules.data.packs} />
      ))}
      {may(me, "change_boat") && (
        <Part title="A pack of your own, from a file">
          <FromFile me={me} />
        </Part>
      )}
    </Page>
  );
}

function Chosen({ me, rules }: { me: Membership; rules: Rules }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.packs`;
  const [on, setOn] = useDraft<string[]>(
    `${scope}.on`,
    rules.packs.filter((p) => p.on).map((p) => p.name),
  );
  const [country, setCountry] = useDraft(`${scope}.country`, rules.country);
  return (
    <fieldset disabled={!may(me, "change_boat")}>
      <SaveForm
        name="Packs that hold"
        draft={scope}
        button="Keep the choice"
        save={() => writeSafety.choosePacks(me.crew_id, country.trim().toUpperCase(), on, rules.version)}
        onSaved={() => freshGear(queries)}
      >
        <Checks
          all={rules.packs.map((p) => [p.name, p.title] as const)}
          on={(name) => on.includes(name)}
          set={(name, is) => setOn(is ? [...on, name] : on.filter((x) => x !== name))}
        />
        <div className="w-64">
          <Loose label="Country where you fish, two letters" max={2} value={country} onChange={setCountry} />
        </div>
      </SaveForm>
    </fieldset>
  );
}

function PackPart({ me, p, all }: { me: Membership; p: Pack; all: Pack[] }) {
  const [editing, setEditing] = useState(false);
  const title = (name: string) => all.find((x) => x.name === name)?.title ?? name;
  return (
    <details className="border-t border-(--hair) pt-1" data-pack={p.name}>
      <summary className="min-h-11 cursor-pointer py-2">
        <span className="label-type text-xl">{p.title}</span>{" "}
        <span className="quiet">
          {[
            p.own ? "your own" : "comes with the program",
            p.on ? "on" : "off",
            `${p.rules.length} rules`,
            p.inherits.length > 0 && `inherits ${p.inherits.map(title).join(", ")}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </span>
      </summary>
      <div className="grid gap-4 pb-4">
        {p.about && <p className="max-w-2xl leading-snug">{p.about}</p>}
        {p.inherits.length > 0 && p.changes.length > 0 && (
          <section aria-label={`What ${p.title} changes`}>
            <h3 className="label-type text-lg">What it changes</h3>
            <ul>
              {p.changes.map((c) => (
                <li key={c.rule} className="leading-snug">
                  {c.what}, {c.how}: {c.said}. {c.why && <span className="quiet">{c.why}</span>}
                </li>
              ))}
            </ul>
          </section>
        )}
        {editing ? (
          <PackEditor me={me} p={p} all={all} onDone={() => setEditing(false)} />
        ) : (
          <>
            <RuleTable p={p} title={title} />
            <div className="flex flex-wrap gap-2">
              {may(me, "change_boat") && (
                <button type="button" className="plain-button" onClick={() => setEditing(true)}>
                  {p.own ? "Change it" : "Make one of your own from it"}
                </button>
              )}
              <a
                className="plain-button flex items-center"
                href={`data:application/json;charset=utf-8,${encodeURIComponent(p.body)}`}
                download={`${p.name}.pack.json`}
              >
                As a file
              </a>
              {p.own && p.id && may(me, "change_boat") && <Remove me={me} p={p} />}
            </div>
          </>
        )}
        {p.history.length > 0 && <History p={p} />}
      </div>
    </details>
  );
}

function Remove({ me, p }: { me: Membership; p: Pack }) {
  const queries = useQueryClient();
  return (
    <RemoveButton
      text="Remove"
      name={p.title}
      remove={() => writeSafety.noPack(me.crew_id, p.id ?? "")}
      onRemoved={() => freshGear(queries)}
    />
  );
}

function RuleTable({ p, title }: { p: Pack; title: (name: string) => string }) {
  return (
    <ul>
      {p.rules.map((r) => (
        <li key={`${r.pack} ${r.id}`} className="hairline-b grid gap-x-6 py-1.5 sm:grid-cols-[14rem_minmax(0,1fr)]">
          <p className="leading-tight">
            {r.what}
            {r.hold && <span className="quiet">, holds</span>}
          </p>
          <div className="leading-snug">
            <p>{r.needs}</p>
            <p className="quiet text-sm">
              {[
                r.pack !== p.name && `of ${title(r.pack)}`,
                conditions(r),
                r.memory ? `${r.source}, from memory` : r.source,
                r.note,
              ]
                .filter(Boolean)
                .join("; ")}
            </p>
          </div>
        </li>
      ))}
    </ul>
  );
}

function conditions(r: Pack["rules"][number]): string {
  const w = r.when ?? {};
  const range = (v: { from?: number; under?: number } | undefined, unit: string) =>
    v &&
    [v.from !== undefined && `from ${v.from}`, v.under !== undefined && `under ${v.under}`].filter(Boolean).join(" ") +
      unit;
  return [
    range(w.length_m, " m"),
    range(w.power_kw, " kW"),
    w.built && `built ${range(w.built, "")}`,
    w.ages && `somebody ${range(w.ages, " years")}`,
    w.persons && `${range(w.persons, "")} aboard`,
    w.propulsion?.join(" or "),
    w.water?.join(" or "),
    w.use?.join(" or "),
    w.country?.join(" or "),
    w.closed_spaces === undefined ? undefined : w.closed_spaces ? "closed spaces" : "no closed spaces",
    w.night === undefined ? undefined : w.night ? "by night" : "by day",
    w.guests && "guests or children",
  ]
    .filter(Boolean)
    .join(", ");
}

function History({ p }: { p: Pack }) {
  return (
    <section aria-label={`Versions of ${p.title}`}>
      <h3 className="label-type text-lg">Versions</h3>
      <ol>
        {p.history.map((h) => (
          <li key={h.version} className="leading-snug">
            {h.version}, {h.by}, {ago(h.on)}.{" "}
            <span className="quiet">{h.said.length > 0 ? h.said.join(" ") : "Nothing changed for a trip ahead."}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function FromFile({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const [text, setText] = useDraft(`${me.crew_id}.packfile.text`, "");
  const read = useMutation({ mutationFn: (file: File) => file.text(), onSuccess: setText });
  return (
    <SaveForm
      name="A pack from a file"
      draft={`${me.crew_id}.packfile`}
      button="Add the pack"
      save={() => writeSafety.addPack(me.crew_id, text)}
      onSaved={() => freshGear(queries)}
      extra={
        <label className="plain-button relative flex cursor-pointer items-center focus-within:outline-3 focus-within:outline-accent">
          Read a file
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(e) => e.target.files?.[0] && read.mutate(e.target.files[0])}
          />
        </label>
      }
    >
      <label className="grid gap-0.5">
        <span className="text-sm leading-tight">
          The pack, one rule a row, by the{" "}
          <a className="underline" href={`/api/crews/${me.crew_id}/packs/schema`}>
            schema
          </a>
        </span>
        <textarea
          className="textarea min-h-32 w-full font-mono text-sm"
          spellCheck={false}
          required
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
    </SaveForm>
  );
}
