import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { ask, freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type GearDetail, type Membership, type Schemas } from "../../api/client";
import { GEAR_FIELDS, GEAR_GROUPS } from "../../domain/gear.gen";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { GearPick } from "../../parts/GearPick";
import { Checks, Choice, Loose, NotANumber, readOne, SaveForm, written } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";

type Input = Schemas["GearInput"];
type Field = {
  key: string;
  label: string;
  hint?: string;
  kind: (typeof GEAR_FIELDS)[number]["kind"];
  group: string;
  list?: keyof typeof WORDS;
  needed?: boolean;
  none?: string;
};
type Value = string | boolean | string[];
type Values = Record<string, Value>;

const FIELDS: readonly Field[] = GEAR_FIELDS;

/** How many groups are open from the start: what matters to where it goes. */
const OPEN = 2;

/** Everything that is said of a piece, from the table of its fields; what is empty is not known or does not apply. */
export function GearForm({ me, gear, onSaved }: { me: Membership; gear: GearDetail; onSaved?: () => void }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const scope = `${me.crew_id}.gear.${gear.id}.${me.units}`;
  const [values, setValues] = useDraft<Values>(`${scope}.values`, () => valuesOf(gear, units));
  const set = (key: string) => (v: Value) => setValues((all) => ({ ...all, [key]: v }));
  const groups = GEAR_GROUPS.map((name) => ({ name, fields: FIELDS.filter((f) => f.group === name) }));
  return (
    <SaveForm
      draft={scope}
      name={`Change ${gear.name}`}
      button="Save"
      onSaved={() => {
        freshGear(queries);
        onSaved?.();
      }}
      save={async () =>
        api.put("/api/crews/{crew}/gear/{gear}", {
          params: { path: { crew: me.crew_id, gear: gear.id } },
          body: { ...inputOf(values, units), version: gear.version },
        })
      }
      extra={<Template crew={me.crew_id} onTake={(g) => setValues({ ...values, ...sizeOf(valuesOf(g, units)) })} />}
    >
      {groups.map((g, i) => (
        <Group key={g.name} name={g.name} open={i < OPEN}>
          <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
            {g.fields
              .filter((f) => f.kind !== "flag" && f.kind !== "choices")
              .map((f) => (
                <FieldInput key={f.key} me={me} field={f} units={units} value={values[f.key] ?? ""} set={set(f.key)} />
              ))}
          </div>
          <Checks
            all={g.fields.filter((f) => f.kind === "flag").map((f) => [f.key, f.label] as const)}
            on={(key) => values[key] === true}
            set={(key, v) => set(key)(v)}
          />
          {g.fields
            .filter((f) => f.kind === "choices")
            .map((f) => (
              <Several key={f.key} field={f} chosen={(values[f.key] as string[]) ?? []} set={set(f.key)} />
            ))}
        </Group>
      ))}
    </SaveForm>
  );
}

/** Which groups a person opened or shut, so that they stay so when a piece was saved. */
const opened = new Map<string, boolean>();

function Group({ name, open, children }: { name: string; open: boolean; children: ReactNode }) {
  return (
    <details
      open={opened.get(name) ?? open}
      onToggle={(e) => opened.set(name, e.currentTarget.open)}
      className="border-(--hair) border-t pt-1"
    >
      <summary className="label-type min-h-11 cursor-pointer py-2 text-lg">{name}</summary>
      <div className="grid gap-2 pb-2">{children}</div>
    </details>
  );
}

function choicesOf(field: Field): readonly (readonly [string, string])[] {
  const words = field.list ? WORDS[field.list] : [];
  return field.none ? [["", field.none], ...words] : words;
}

/** Up to how many choices stand open; more are chosen from a list, one after the other. */
const MOST_OPEN = 16;

function Several({ field, chosen, set }: { field: Field; chosen: string[]; set: (v: string[]) => void }) {
  const all: readonly (readonly [string, string])[] = field.list ? WORDS[field.list] : [];
  if (all.length > MOST_OPEN)
    return (
      <fieldset className="relative grid gap-x-4 sm:grid-cols-[16rem_minmax(0,1fr)]">
        <legend className="sr-only">{field.label}</legend>
        <Choice
          label={field.hint ? `${field.label} (${field.hint})` : field.label}
          value=""
          options={[["", "add"], ...all.filter(([key]) => !chosen.includes(key))]}
          onChange={(key) => set([...chosen, key])}
        />
        <Checks
          all={all.filter(([key]) => chosen.includes(key))}
          on={() => true}
          set={(key) => set(chosen.filter((x) => x !== key))}
        />
      </fieldset>
    );
  return (
    <fieldset>
      <legend className="text-sm">{field.label}</legend>
      <Checks
        all={all}
        on={(key) => chosen.includes(key)}
        set={(key, v) => set(v ? [...chosen, key] : chosen.filter((x) => x !== key))}
      />
    </fieldset>
  );
}

type FieldInputProps = { me: Membership; field: Field; units: Units; value: Value; set: (v: string) => void };

function FieldInput({ me, field, units, value, set }: FieldInputProps) {
  const text = String(value);
  const label = field.hint ? `${field.label} (${field.hint})` : field.label;
  switch (field.kind) {
    case "choice":
      return <Choice label={label} value={text} options={choicesOf(field)} onChange={set} />;
    case "member":
      return <MemberChoice me={me} label={label} none={field.none} value={text} set={set} />;
    case "post":
      return <PostChoice me={me} label={label} value={text} set={set} />;
    case "piece":
      return <PieceChoice me={me} label={label} value={text} set={set} />;
    case "day":
      return <Loose label={label} type="date" value={text} onChange={set} />;
    case "tags":
      return (
        <div className="col-span-2 sm:col-span-3 lg:col-span-4">
          <Loose label={label} value={text} onChange={set} max={400} />
        </div>
      );
    case "text":
      return <Loose label={label} value={text} onChange={set} required={field.needed} />;
    default:
      return <Loose label={label} value={text} onChange={set} unit={unitOf(field, units).unit} />;
  }
}

type ChoiceProps = { me: Membership; label: string; value: string; set: (v: string) => void };

function MemberChoice({ me, label, none, value, set }: ChoiceProps & { none?: string }) {
  const members = useQuery(ask.members(me.crew_id));
  const options = [["", none ?? ""], ...(members.data ?? []).map((m) => [m.id, m.name])] as [string, string][];
  return <Choice label={label} value={value} options={options} onChange={set} />;
}

function PostChoice({ me, label, value, set }: ChoiceProps) {
  const posts = useQuery(ask.bench(me.crew_id, me.boats[0]?.id ?? "")).data?.posts ?? [];
  return (
    <>
      <Loose label={label} value={value} onChange={set} list="posts" />
      <datalist id="posts">
        {posts.map((p) => (
          <option key={p.id} value={p.name} />
        ))}
      </datalist>
    </>
  );
}

function PieceChoice({ me, label, value, set }: ChoiceProps) {
  const chosen = useQuery(askGear.gear(me.crew_id, value));
  return (
    <div className="col-span-2 grid content-start gap-0.5">
      <span className="text-sm leading-tight">{label}</span>
      <span className="flex flex-wrap gap-1">
        {value ? (
          <button type="button" className="plain-button" onClick={() => set("")}>
            {chosen.data?.name ?? "…"}: take off
          </button>
        ) : (
          <GearPick me={me} label={label} placeholder="gear" onPick={(g) => set(g.id)} />
        )}
      </span>
    </div>
  );
}

function unitOf(field: Field, units: Units): { unit: string; si: number } {
  if (field.kind === "side") return { unit: units.sideUnit, si: units.sideSI };
  if (field.kind === "mass") return { unit: units.massUnit, si: units.massSI };
  return { unit: "", si: 1 };
}

const isNumber = (f: Field) => ["side", "mass", "number", "count"].includes(f.kind);

/** A field's key is a name, or a name and which of its sides: size_m[0]. */
function pathOf(key: string): [keyof Input, number | undefined] {
  const [, name, side] = /^(\w+)(?:\[(\d)\])?$/.exec(key) ?? [];
  return [name as keyof Input, side === undefined ? undefined : Number(side)];
}

/** What is said of a piece, as it stands in the form. */
function valuesOf(gear: Input, units: Units): Values {
  return Object.fromEntries(
    FIELDS.map((f) => {
      const [name, side] = pathOf(f.key);
      const whole = gear[name];
      const v = side === undefined ? whole : (whole as number[] | undefined)?.[side];
      if (f.kind === "flag") return [f.key, v === true];
      if (f.kind === "choices") return [f.key, (v as string[] | undefined) ?? []];
      if (f.kind === "tags") return [f.key, ((v as string[] | undefined) ?? []).join(", ")];
      if (isNumber(f)) return [f.key, written(unitOf(f, units), (v as number | undefined) ?? 0)];
      return [f.key, (v as string | undefined) ?? ""];
    }),
  );
}

/** Size, mass and what it holds alone: what a usual thing gives. */
function sizeOf(values: Values): Values {
  return Object.fromEntries(Object.entries(values).filter(([key]) => /^(size_m|inside_m|kg$)/.test(key)));
}

/** What stands in the form as it is sent. An empty choice is left out. */
function inputOf(values: Values, units: Units): Input {
  const body: Record<string, unknown> = {};
  for (const f of FIELDS) {
    const [name, side] = pathOf(f.key);
    const v = sent(f, values[f.key] ?? "", units);
    if (side !== undefined) {
      const sides = (body[name] ?? []) as unknown[];
      sides[side] = v;
      body[name] = sides;
    } else if (v !== "" || f.kind === "text" || f.kind === "post") {
      body[name] = v;
    }
  }
  if (!body.cost) delete body.cost; // nought is not said
  return body as Input;
}

function sent(f: Field, value: Value, units: Units): unknown {
  if (f.kind === "tags")
    return String(value)
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean);
  if (!isNumber(f)) return typeof value === "string" ? value.trim() : value;
  if (String(value).trim() === "" && !f.needed) return 0; // left out
  const n = readOne(unitOf(f, units), String(value));
  if (n === undefined) throw new NotANumber(`${f.label}: write a number.`);
  return f.kind === "count" ? Math.round(n) : n;
}

/** Takes size and mass from a usual thing. */
function Template({ crew, onTake }: { crew: string; onTake: (g: Input) => void }) {
  const list = useQuery(askGear.templates(crew));
  return (
    <select
      aria-label="Size and mass of a usual thing"
      className="select min-h-11 text-base"
      value=""
      onChange={(e) => {
        const t = list.data?.find((x) => x.name === e.target.value);
        if (t) onTake(t.gear);
      }}
    >
      <option value="">size as a usual…</option>
      {(list.data ?? []).map((t) => (
        <option key={t.name}>{t.name}</option>
      ))}
    </select>
  );
}
