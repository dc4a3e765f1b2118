import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { freshGear } from "../../api/ask";
import { writeSafety } from "../../api/askSafety";
import type { Membership, Schemas } from "../../api/client";
import { WORDS } from "../../domain/words.gen";
import { Checks, Choice, Loose, SaveForm, TextField } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";

type Pack = Schemas["PackView"];
type Rule = Schemas["RuleView"];
type Line = NonNullable<Rule["need"]>[number];
type File = {
  name: string;
  title: string;
  about?: string;
  inherits?: string[];
  drops?: { rule: string; why: string }[];
  rules: Omit<Rule, "pack" | "needs">[];
};

/** What to begin with: the pack itself, or one of the crew's own that inherits it. */
function begun(p: Pack, all: Pack[]): File {
  if (p.own) return JSON.parse(p.body) as File;
  let name = `our-${p.name}`;
  for (let i = 2; all.some((x) => x.name === name); i++) name = `our-${p.name}-${i}`;
  return { name, title: `Ours: ${p.title}`, inherits: [p.name], rules: [] };
}

type Props = { me: Membership; p: Pack; all: Pack[]; onDone: () => void };

/** Changes a pack of the crew's own, rule by rule, or as the file it is. */
export function PackEditor({ me, p, all, onDone }: Props) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.pack.${p.name}`;
  const [text, setText] = useDraft(`${scope}.text`, () => JSON.stringify(begun(p, all), null, 1));
  const [said, setSaid] = useState<string[]>();
  const file = parsed(text);
  const put = (f: File) => setText(JSON.stringify(f, null, 1));
  return (
    <SaveForm
      name={p.own ? `Change: ${p.title}` : `Your own, from ${p.title}`}
      draft={scope}
      button="Keep the pack"
      save={async () => {
        const r = p.id
          ? await writeSafety.changePack(me.crew_id, p.id, text, p.version ?? 0)
          : await writeSafety.addPack(me.crew_id, text);
        setSaid(r.said);
      }}
      onSaved={() => freshGear(queries)}
      extra={
        <button type="button" className="plain-button" onClick={onDone}>
          Back to the rules
        </button>
      }
    >
      {said && (
        <p role="status" className="leading-snug">
          {said.length > 0 ? said.join(" ") : "Nothing changed for a trip ahead."}
        </p>
      )}
      {file ? (
        <>
          <div className="grid grid-cols-2 gap-x-4 gap-y-2">
            <TextField label="Title" value={file.title} onChange={(title) => put({ ...file, title })} />
            {!p.own && <TextField label="Name" value={file.name} onChange={(name) => put({ ...file, name })} />}
          </div>
          <ul aria-label="Rules of the pack">
            {rulesOf(file, p, all).map((r) => (
              <RuleRow key={r.id} file={file} r={r} onChange={put} />
            ))}
          </ul>
          <button
            type="button"
            className="plain-button justify-self-start"
            onClick={() => put({ ...file, rules: [...file.rules, fresh(file)] })}
          >
            Add a rule
          </button>
        </>
      ) : (
        <p className="text-loud">The text is no JSON now: mend it below.</p>
      )}
      <details>
        <summary className="min-h-11 cursor-pointer py-2">
          As a file: conditions and other ways are written here
        </summary>
        <textarea
          aria-label="The pack as a file"
          className="textarea min-h-64 w-full font-mono text-sm"
          spellCheck={false}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </details>
    </SaveForm>
  );
}

function parsed(text: string): File | undefined {
  try {
    const f = JSON.parse(text) as File;
    return Array.isArray(f.rules) ? f : undefined;
  } catch {
    return undefined;
  }
}

function fresh(file: File): File["rules"][number] {
  let n = file.rules.length + 1;
  while (file.rules.some((r) => r.id === `rule-${n}`)) n++;
  return { id: `rule-${n}`, what: "something", need: [{ class: ["lamp"] }], source: "our own" };
}

type Standing = { id: string; what: string; own?: File["rules"][number]; inherited?: Rule; dropped?: string };

/** The rules as they stand: inherited ones, as they are changed or dropped, then those added. */
function rulesOf(file: File, p: Pack, all: Pack[]): Standing[] {
  const inherited = (file.inherits ?? []).flatMap((name) => all.find((x) => x.name === name)?.rules ?? []);
  const from = inherited.length > 0 ? inherited : p.own ? [] : p.rules;
  const list: Standing[] = from.map((r) => ({
    id: r.id,
    what: r.what,
    inherited: r,
    own: file.rules.find((o) => o.id === r.id),
    dropped: file.drops?.find((d) => d.rule === r.id)?.why,
  }));
  return [
    ...list,
    ...file.rules.filter((o) => !list.some((l) => l.id === o.id)).map((own) => ({ id: own.id, what: own.what, own })),
  ];
}

type RowProps = { file: File; r: Standing; onChange: (f: File) => void };

function RuleRow({ file, r, onChange }: RowProps) {
  const rules = (own: File["rules"][number] | undefined) => {
    const left = file.rules.filter((x) => x.id !== r.id);
    return own ? [...left, own] : left;
  };
  const drops = (why: string | undefined) => {
    const left = (file.drops ?? []).filter((d) => d.rule !== r.id);
    return why === undefined ? left : [...left, { rule: r.id, why }];
  };
  const change = () => {
    if (!r.inherited) return;
    const { pack: _, needs: __, why: ___, ...rule } = r.inherited;
    onChange({ ...file, rules: rules({ ...rule, why: "our own" }), drops: drops(undefined) });
  };
  return (
    <li className="hairline-b grid gap-2 py-2" data-edited={r.id}>
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <p className="leading-tight">
          <b>{r.own?.what ?? r.what}</b>{" "}
          <span className="quiet">
            {r.dropped !== undefined ? "dropped" : r.own ? (r.inherited ? "changed" : "added") : r.inherited?.needs}
          </span>
        </p>
        <span className="flex gap-2">
          {!r.own && r.dropped === undefined && (
            <>
              <Press text="Change" name={r.what} onPress={change} />
              <Press text="Drop" name={r.what} onPress={() => onChange({ ...file, drops: drops("we do without") })} />
            </>
          )}
          {(r.own || r.dropped !== undefined) && (
            <Press
              text={r.inherited ? "As inherited" : "Remove"}
              name={r.what}
              onPress={() => onChange({ ...file, rules: rules(undefined), drops: drops(undefined) })}
            />
          )}
        </span>
      </div>
      {r.dropped !== undefined && (
        <Loose
          label="Why"
          max={300}
          required
          value={r.dropped}
          onChange={(why) => onChange({ ...file, drops: drops(why) })}
        />
      )}
      {r.own && (
        <RuleFields
          own={r.own}
          inherited={!!r.inherited}
          onChange={(own) => onChange({ ...file, rules: rules(own) })}
        />
      )}
    </li>
  );
}

function Press({ text, name, onPress }: { text: string; name: string; onPress: () => void }) {
  return (
    <button type="button" className="plain-button" aria-label={`${text}: ${name}`} onClick={onPress}>
      {text}
    </button>
  );
}

type FieldsProps = { own: File["rules"][number]; inherited: boolean; onChange: (r: File["rules"][number]) => void };

/** The fields of a rule with one line of need; others are written in the file. */
function RuleFields({ own, inherited, onChange }: FieldsProps) {
  const lines = own.need ?? [];
  const line = lines[0];
  const put = (change: Partial<Line>) =>
    onChange({ ...own, need: lines.map((l, i) => (i === 0 ? tidy({ ...l, ...change }) : l)) });
  if (!line) return null;
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
      <TextField label="What, in plain words" value={own.what} onChange={(what) => onChange({ ...own, what })} />
      <Choice
        label="Class"
        value={(line.class ?? ["lamp"])[0] ?? "lamp"}
        options={WORDS.safety_classes}
        onChange={(c) => put({ class: [c, ...(line.class ?? []).slice(1)] })}
      />
      <Loose
        label="How many"
        unit=""
        value={String(line.count ?? 1)}
        onChange={(v) => put({ count: Math.round(Number(v)) || undefined })}
      />
      <Choice label="For" value={line.per ?? "boat"} options={WORDS.carriage_per} onChange={(per) => put({ per })} />
      <Loose
        label="In a hand within"
        unit="s"
        value={String(line.within_s ?? "")}
        onChange={(v) => put({ within_s: Number(v) || undefined })}
      />
      <Loose label="Source" max={200} value={own.source} onChange={(source) => onChange({ ...own, source })} />
      {inherited && (
        <Loose
          label="Why it is otherwise"
          max={300}
          value={own.why ?? ""}
          onChange={(why) => onChange({ ...own, why })}
        />
      )}
      <div className="col-span-2 sm:col-span-4">
        <Checks
          all={[
            ["in_date", "in date"],
            ["fits", "fits the body"],
            ["worn", "worn under way"],
            ["hold", "a trip is not ready without it"],
          ]}
          on={(key) => (key === "hold" ? !!own.hold : !!line[key as "in_date" | "fits" | "worn"])}
          set={(key, value) =>
            key === "hold" ? onChange({ ...own, hold: value || undefined }) : put({ [key]: value || undefined })
          }
        />
      </div>
      {(lines.length > 1 || (own.or ?? []).length > 0) && (
        <p className="quiet col-span-2 text-sm sm:col-span-4">
          It has more lines and ways: they are in the file below.
        </p>
      )}
    </div>
  );
}

/** A line without what is not said. */
function tidy(line: Line): Line {
  return Object.fromEntries(Object.entries(line).filter(([, v]) => v !== undefined)) as Line;
}
