import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useBench } from "../../api/bench";
import { answered, api, type Membership, type Schemas, write } from "../../api/client";
import { freshGear, type GearDetail, useGear, useMembers } from "../../api/gear";
import {
  Choice,
  KNOWN,
  NotANumber,
  NumberFields,
  readOne,
  SaveForm,
  TextField,
  typed,
  type Values,
} from "../../ui/Form";
import { unitsOf } from "../../units";
import { GearPick } from "../find/GearPick";

const TURNS = [
  ["any", "any side up"],
  ["upright", "stays upright"],
  ["none", "as it lies"],
] as const;
const SHAPES = [
  ["box", "a box"],
  ["rod", "a rod"],
  ["soft", "soft"],
  ["loose", "loose things in a bag"],
] as const;
const STATES = [
  ["good", "good"],
  ["worn", "worn"],
  ["broken", "broken"],
] as const;
const HAZARDS = ["fuel", "gas", "flares", "lead-acid", "lithium", "sparks", "magnet", "steel", "sharp", "poison"];
const FLAGS = [
  ["needs_dry", "must stay dry"],
  ["fragile", "fragile"],
  ["metal", "metal"],
  ["buoyant", "floats"],
  ["keeps_dry", "keeps dry what it holds"],
] as const;

type Input = Schemas["GearInput"];

/** Everything that is said of a piece; what is empty is not known or does not apply. */
export function GearForm({ me, gear, onSaved }: { me: Membership; gear: GearDetail; onSaved?: () => void }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const members = useMembers(me.crew_id);
  const side = (key: string, label: string) => ({ key, label, unit: units.sideUnit, si: units.sideSI });
  const kg = (key: string, label: string) => ({ key, label, unit: units.massUnit, si: units.massSI });
  const count = (key: string, label: string) => ({ key, label, unit: "", si: 1 });
  const three = (key: string, labels: [string, string, string]) => labels.map((l, i) => side(`${key}${i}`, l));
  const main = [
    ...three("size", ["Long, stowed", "Broad", "High"]),
    kg("kg", "Mass of one"),
    count("count", "How many, kept together"),
    count("restock_at", "Buy more at (0: not used up)"),
    count("uses_per_day", "Fetched, times a day"),
  ];
  const more = [
    ...three("inside", ["Holds: long inside (0: no box)", "Broad inside", "High inside"]),
    kg("holds_kg", "Holds at most (0: no limit)"),
    ...three("use", ["In use: long (0: as stowed)", "Broad in use", "High in use"]),
    { key: "guide", label: "A rod's largest guide, high (0: as usual)", unit: units.sideUnit, si: units.sideSI },
    count("cost", "What it cost (0: not said)"),
  ];
  const fields = [...main, ...more];
  const [values, setValues] = useState<Values>(() => typed(fields, flat(gear)));
  const [text, setText] = useState({
    name: gear.name,
    nickname: gear.nickname ?? "",
    tags: (gear.tags ?? []).join(", "),
    serial: gear.serial ?? "",
    from: gear.used_from ?? "",
    expires: gear.expires_on ?? "",
  });
  const [choice, setChoice] = useState({
    owner: gear.owner_id ?? "",
    known: gear.mass_known,
    shape: gear.shape ?? "box",
    turn: gear.turn,
    condition: gear.condition ?? "good",
  });
  const [flags, setFlags] = useState<Record<string, boolean>>(() =>
    Object.fromEntries(FLAGS.map(([k]) => [k, Boolean(gear[k])])),
  );
  const [hazards, setHazards] = useState(gear.hazards ?? []);
  const [spareFor, setSpareFor] = useState(gear.spares_for ? { id: gear.spares_for, name: "" } : undefined);
  const whole = useGear(me.crew_id, spareFor?.id);
  const posts = useBench(me.crew_id, me.boats[0]?.id ?? "").data?.posts.map((p) => p.name) ?? [];
  const number = (key: string) => {
    const f = fields.find((x) => x.key === key);
    const n = f && readOne(f, values[key] ?? "");
    if (n === undefined) throw new NotANumber(`${f?.label}: write a number.`);
    return n;
  };
  const vec = (key: string) => [0, 1, 2].map((i) => number(`${key}${i}`)) as [number, number, number];
  const body = (): Input => ({
    name: text.name,
    nickname: text.nickname,
    serial: text.serial,
    used_from: text.from.trim(),
    uses_per_day: number("uses_per_day"),
    tags: text.tags
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean),
    size_m: vec("size"),
    inside_m: vec("inside"),
    use_size_m: vec("use"),
    kg: number("kg"),
    holds_kg: number("holds_kg"),
    guide_m: number("guide"),
    count: Math.round(number("count")),
    restock_at: Math.round(number("restock_at")),
    mass_known: choice.known,
    shape: choice.shape,
    turn: choice.turn,
    condition: choice.condition,
    needs_dry: Boolean(flags.needs_dry),
    fragile: flags.fragile,
    metal: flags.metal,
    buoyant: flags.buoyant,
    keeps_dry: flags.keeps_dry,
    hazards,
    ...(number("cost") > 0 ? { cost: number("cost") } : {}),
    ...(text.expires ? { expires_on: text.expires } : {}),
    ...(choice.owner ? { owner_id: choice.owner } : {}),
    ...(spareFor ? { spares_for: spareFor.id } : {}),
  });
  const put = (key: keyof typeof text) => (v: string) => setText({ ...text, [key]: v });
  return (
    <SaveForm
      name={`Change ${gear.name}`}
      button="Save"
      onSaved={() => {
        freshGear(queries);
        onSaved?.();
      }}
      save={async () =>
        write((key) =>
          api.PUT("/api/crews/{crew}/gear/{gear}", {
            params: { path: { crew: me.crew_id, gear: gear.id }, header: { "Idempotency-Key": key } },
            body: { ...body(), version: gear.version },
          }),
        )
      }
      extra={
        <Template
          onTake={(g) => setValues({ ...values, ...typed(fields, { ...back(fields, values), ...flat(g) }) })}
          crew={me.crew_id}
        />
      }
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
        <TextField label="Name" value={text.name} onChange={put("name")} />
        <Loose label="Also called" value={text.nickname} onChange={put("nickname")} />
        <Loose label="Used at (a post; empty: anywhere)" value={text.from} onChange={put("from")} list="posts" />
        <datalist id="posts">
          {posts.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <Loose label="Tags, with commas" value={text.tags} onChange={put("tags")} max={400} />
        <Choice
          label="Whose"
          value={choice.owner}
          options={[["", "the crew's"], ...(members.data ?? []).map((m) => [m.id, m.name] as const)]}
          onChange={(owner) => setChoice({ ...choice, owner })}
        />
        <Choice
          label="The mass is"
          value={choice.known}
          options={KNOWN}
          onChange={(known) => setChoice({ ...choice, known })}
        />
        <Choice
          label="Shape"
          value={choice.shape}
          options={SHAPES}
          onChange={(shape) => setChoice({ ...choice, shape })}
        />
        <Choice
          label="Turning"
          value={choice.turn}
          options={TURNS}
          onChange={(turn) => setChoice({ ...choice, turn })}
        />
        <Choice
          label="Condition"
          value={choice.condition}
          options={STATES}
          onChange={(condition) => setChoice({ ...choice, condition })}
        />
      </div>
      <NumberFields fields={main} values={values} onChange={setValues} />
      <Checks all={FLAGS} on={(k) => Boolean(flags[k])} set={(k, v) => setFlags({ ...flags, [k]: v })} />
      <details>
        <summary className="label-type min-h-11 cursor-pointer py-2 text-lg">
          A box, in use, hazards, dates, serial, cost
        </summary>
        <div className="grid gap-3 pt-1">
          <NumberFields fields={more} values={values} onChange={setValues} />
          <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
            <Loose label="Last good day" type="date" value={text.expires} onChange={put("expires")} />
            <Loose label="Serial number" value={text.serial} onChange={put("serial")} />
            <div className="col-span-2 grid content-start gap-0.5">
              <span className="text-sm leading-tight">A spare for</span>
              <span className="flex flex-wrap gap-1">
                {spareFor ? (
                  <button type="button" className="plain-button" onClick={() => setSpareFor(undefined)}>
                    {spareFor.name || whole.data?.name || "…"}: take off
                  </button>
                ) : (
                  <GearPick me={me} label="A spare for" placeholder="gear" onPick={setSpareFor} />
                )}
              </span>
            </div>
          </div>
          <fieldset>
            <legend className="text-sm">Hazards</legend>
            <Checks
              all={HAZARDS.map((h) => [h, h] as const)}
              on={(h) => hazards.includes(h)}
              set={(h, v) => setHazards(v ? [...hazards, h] : hazards.filter((x) => x !== h))}
            />
          </fieldset>
        </div>
      </details>
    </SaveForm>
  );
}

/** A piece's numbers under the keys of the form. */
function flat(
  g: Pick<
    Input,
    | "size_m"
    | "inside_m"
    | "use_size_m"
    | "kg"
    | "holds_kg"
    | "count"
    | "restock_at"
    | "cost"
    | "uses_per_day"
    | "guide_m"
  >,
) {
  const three = (key: string, v?: number[]) => Object.fromEntries([0, 1, 2].map((i) => [`${key}${i}`, v?.[i] ?? 0]));
  return {
    ...three("size", g.size_m),
    ...three("inside", g.inside_m),
    ...three("use", g.use_size_m),
    kg: g.kg,
    holds_kg: g.holds_kg ?? 0,
    count: g.count,
    restock_at: g.restock_at ?? 0,
    cost: g.cost ?? 0,
    uses_per_day: g.uses_per_day ?? 1,
    guide: g.guide_m ?? 0,
  } as Record<string, number>;
}

/** What stands in the form, in SI, where it can be read. */
function back(fields: Parameters<typeof typed>[0], values: Values): Record<string, number> {
  return Object.fromEntries(fields.map((f) => [f.key, readOne(f, values[f.key] ?? "") ?? 0]));
}

/** Takes size and mass from a usual thing. */
function Template({ crew, onTake }: { crew: string; onTake: (g: Input) => void }) {
  const list = useQuery({
    queryKey: ["templates"],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/gear-templates", { params: { path: { crew } }, signal })) as Promise<
        Schemas["TemplateView"][]
      >,
    staleTime: Number.POSITIVE_INFINITY,
  });
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

/** A text that may stay empty. */
export function Loose(props: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  max?: number;
  type?: string;
  list?: string;
}) {
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{props.label}</span>
      <input
        className="input min-h-11 w-full text-base"
        type={props.type ?? "text"}
        maxLength={props.max ?? 80}
        list={props.list}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </label>
  );
}

type ChecksProps = {
  all: readonly (readonly [string, string])[];
  on: (key: string) => boolean;
  set: (key: string, value: boolean) => void;
};

function Checks({ all, on, set }: ChecksProps) {
  return (
    <div className="flex flex-wrap gap-x-5">
      {all.map(([key, label]) => (
        <label key={key} className="flex min-h-11 items-center gap-2">
          <input type="checkbox" className="checkbox" checked={on(key)} onChange={(e) => set(key, e.target.checked)} />
          {label}
        </label>
      ))}
    </div>
  );
}
