import { useMutation, useQuery } from "@tanstack/react-query";
import { type ChangeEvent, useEffect, useState } from "react";
import { askBoat } from "../../api/askBoat";
import { api, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { type Units, unitsOf } from "../../domain/units";
import { BoatDrawing, type Solid } from "../../drawing/BoatDrawing";
import {
  Choice,
  type NumberField,
  NumberFields,
  read,
  readOne,
  SaveForm,
  TextField,
  typed,
  type Values,
} from "../../ui/Form";
import { lengthField } from "../../ui/fields";
import { type Column, type Row, Rows, rowOf, valuesOf } from "../../ui/Rows";
import { Faults } from "../../ui/States";
import { dropDraft, useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";
import { dimensionOf } from "./dimensions";
import { attempt } from "./EngineStage";
import type { Frame } from "./SetupPage";
import { type BoatInput, type BoatView, freshBoat, useSaveBoat } from "./useBoat";

type Props = {
  me: Membership;
  boat?: BoatView;
  choices: Schemas["HullChoices"];
  frame: Frame;
  onDone: (boat: string) => void;
};

type Draft = {
  name: string;
  water: string;
  form: string;
  values: Values;
  deck: boolean;
  well: boolean;
  stations?: BoatInput["hull"]["stations"];
  floods: Row[];
};

/** Other openings where water comes in: a hatch, a notch of a boat by offsets. */
function floodColumns(units: Units): Column[] {
  const m = (key: string, label: string): Column => ({
    kind: "number",
    key,
    label,
    unit: units.lengthUnit,
    si: units.lengthSI,
  });
  return [
    { kind: "text", key: "name", label: "Opening" },
    m("x", "From transom"),
    m("y", "To port"),
    m("z", "Over keel"),
  ];
}

function floodOf(c: Column[], row: Row) {
  const { name, x, y, z } = valuesOf(c, row);
  const space = row.space ? { space: row.space } : {}; // the page does not show it, and must not lose it
  return { name, at_m: [x, y, z], ...space } as FloodInput;
}

type FloodInput = NonNullable<BoatInput["hull"]["flood_points"]>[number];

function floodRow(c: Column[], f: FloodInput): Row {
  const [x, y, z] = f.at_m;
  return { ...rowOf(c, { name: f.name, x, y, z }), space: f.space ?? "" };
}

const WATERS = [
  ["1025", "salt"],
  ["999", "fresh"],
] as const;

function fieldsOf(form: Schemas["Form"] | undefined, units: Units): NumberField[] {
  return (form?.measures ?? []).map((m) => ({
    key: m.key,
    label: m.label,
    hint: m.how,
    unit: m.unit === "deg" ? "°" : units.lengthUnit,
    si: m.unit === "deg" ? 1 : units.lengthSI,
  }));
}

function extraFields(units: Units): { deck: NumberField[]; well: NumberField[] } {
  const m = lengthField(units);
  return {
    deck: [
      m("deck_sole", "Height of the sole", "keel's level to the sole"),
      m("deck_aft", "Sole begins", "from the transom"),
      m("deck_fore", "Sole ends", "from the transom"),
      m("scupper_x", "Scuppers, from the transom"),
      m("scupper_y", "Scuppers, off the middle", "one on each side"),
      m("scupper_z", "Scuppers' height", "keel's level to the lower edge"),
    ],
    well: [
      m("well_length", "Well's length", "transom to its bulkhead"),
      m("well_breadth", "Well's breadth"),
      m("well_floor", "Well's floor", "over the keel"),
      m("well_bulkhead", "Bulkhead's top", "over the keel"),
    ],
  };
}

/** The extra figures of a hull in SI, with likely ones where she has none yet. */
function extras(hull: BoatInput["hull"]): Record<string, number> {
  const length = hull.measures?.length_m ?? 5;
  const aft = hull.measures?.depth_aft_m ?? 0.6;
  const beam = hull.measures?.transom_beam_m ?? 1.6;
  const scupper = hull.deck?.scuppers[0]?.at_m;
  return {
    deck_sole: hull.deck?.sole_m ?? aft * 0.45,
    deck_aft: hull.deck?.aft_m ?? 0.05,
    deck_fore: hull.deck?.fore_m ?? length * 0.75,
    scupper_x: scupper?.[0] ?? 0.05,
    scupper_y: Math.abs(scupper?.[1] ?? beam * 0.36),
    scupper_z: scupper?.[2] ?? aft * 0.47,
    well_length: hull.well?.length_m ?? 0.45,
    well_breadth: hull.well?.breadth_m ?? beam * 0.45,
    well_floor: hull.well?.floor_m ?? aft * 0.6,
    well_bulkhead: hull.well?.bulkhead_m ?? aft * 0.95,
  };
}

/** The hull of what was typed. Texts that are no numbers are left out; the server says what is missing. */
function hullOf(d: Draft, fields: NumberField[], units: Units, was?: BoatInput["hull"]): BoatInput["hull"] {
  const { deck, well } = extraFields(units);
  const n = (key: string, list: NumberField[]) => {
    const f = list.find((q) => q.key === key);
    return (f && readOne(f, d.values[key] ?? "")) ?? 0;
  };
  const measures = Object.fromEntries(
    fields.flatMap((f) => {
      const v = readOne(f, d.values[f.key] ?? "");
      return v === undefined ? [] : [[f.key, v]];
    }),
  );
  const at = (side: number): [number, number, number] => [
    n("scupper_x", deck),
    side * n("scupper_y", deck),
    n("scupper_z", deck),
  ];
  return {
    ...(d.stations ? { stations: d.stations } : { form: d.form, measures }),
    flood_points: d.floods.flatMap((r) => attempt(() => floodOf(floodColumns(units), r)) ?? []),
    ...(d.deck && {
      deck: {
        sole_m: n("deck_sole", deck),
        aft_m: n("deck_aft", deck),
        fore_m: n("deck_fore", deck),
        scuppers: [
          { name: "port scupper", at_m: at(1) },
          { name: "starboard scupper", at_m: at(-1) },
          ...(was?.deck?.scuppers.slice(2) ?? []), // more than a pair came by the interface
        ],
      },
    }),
    ...(d.well && {
      well: {
        length_m: n("well_length", well),
        breadth_m: n("well_breadth", well),
        floor_m: n("well_floor", well),
        bulkhead_m: n("well_bulkhead", well),
      },
    }),
  };
}

export function HullStage({ me, boat, choices, frame, onDone }: Props) {
  const units = unitsOf(me.units);
  const save = useSaveBoat(me, boat);
  const start = (boat as BoatInput) ?? freshBoat(choices.forms[0] as Schemas["Form"], choices);
  const form0 = choices.forms.find((f) => f.name === start.hull.form);
  const extra = extraFields(units);
  const scope = `${me.crew_id}.boat.${boat?.id ?? "new"}.hull.${me.units}`;
  const [d, setDraft] = useDraft<Draft>(`${scope}.all`, {
    name: start.name,
    water: start.water_density_kg_m3 > 1010 ? "1025" : "999",
    form: start.hull.form ?? "",
    values: {
      ...typed(fieldsOf(form0, units), start.hull.measures ?? {}),
      ...typed([...extra.deck, ...extra.well], extras(start.hull)),
    },
    deck: start.hull.deck !== undefined,
    well: start.hull.well !== undefined,
    stations: start.hull.stations,
    floods: (start.hull.flood_points ?? []).map((f) => floodRow(floodColumns(units), f)),
  });
  const [focus, setFocus] = useState<string>();
  const form = d.stations ? undefined : choices.forms.find((f) => f.name === d.form);
  const fields = fieldsOf(form, units);
  const hull = hullOf(d, fields, units, boat?.hull);
  const asked = useSettled(JSON.stringify({ hull, water_density_kg_m3: Number(d.water) }), 90);
  const preview = useQuery(askBoat.hullPreview(me.crew_id, asked));
  const [seen, setSeen] = useState<Schemas["HullPreview"]>();
  useEffect(() => {
    if (preview.data?.lines) setSeen(preview.data); // a hull that can't be made leaves the last one standing
  }, [preview.data]);
  const wrong = wrongOf(preview.data, fields, units);
  const choose = (name: string) => {
    const next = choices.forms.find((f) => f.name === name);
    if (!next) return;
    // What was typed stays, also what this form has not; only what stood there as usual becomes the next one's usual.
    const usual = typed(fields, Object.fromEntries((form?.measures ?? []).map((m) => [m.key, m.usual])));
    const nextUsual = typed(fieldsOf(next, units), Object.fromEntries(next.measures.map((m) => [m.key, m.usual])));
    const mine = (key: string) => d.values[key] !== undefined && (boat !== undefined || d.values[key] !== usual[key]);
    const values = {
      ...d.values,
      ...Object.fromEntries(Object.entries(nextUsual).filter(([key]) => !mine(key))),
    };
    setDraft({ ...d, form: name, stations: undefined, values });
  };
  const submit = async () => {
    read(d.stations ? [] : fields, d.values);
    read([...(d.deck ? extra.deck : []), ...(d.well ? extra.well : [])], d.values);
    const base = boat ?? freshBoat(form ?? (choices.forms[0] as Schemas["Form"]), choices, hull.measures);
    const id = await save(
      {
        ...base,
        name: d.name,
        water_density_kg_m3: Number(d.water),
        hull: { ...hull, flood_points: d.floods.map((r) => floodOf(floodColumns(units), r)) },
      },
      "hull",
    );
    dropDraft(scope);
    onDone(id);
  };
  const focused = fields.find((f) => f.key === focus);
  const lines = seen?.lines;
  return frame(
    <>
      <p className="quiet hidden px-4 pt-3 sm:block">
        {form ? form.about : "By her offsets."} Press into a field: the drawing shows where the tape goes.
      </p>
      {lines && (
        <BoatDrawing
          lines={lines}
          name={d.name || "The boat"}
          dimension={
            focused && dimensionOf(focus, lines, hull.measures ?? {}, `${d.values[focused.key] ?? ""} ${focused.unit}`)
          }
          solids={openSpaces(hull, seen.beam_m)}
          dots={seen.flood_points.map((f) => ({ name: f.name, at: f.at_m, shape: "opening" as const }))}
        />
      )}
      {seen && <HullFigures v={seen} units={units} stale={!preview.data?.lines} />}
    </>,
    <SaveForm
      draft={scope}
      name="The hull"
      button={boat ? "Save and continue" : "Add the boat and continue"}
      save={submit}
    >
      <div className="grid grid-cols-2 gap-4">
        <TextField label="Name" value={d.name} onChange={(name) => setDraft({ ...d, name })} />
        <Choice
          label="Water she floats in"
          value={d.water}
          options={WATERS}
          onChange={(water) => setDraft({ ...d, water })}
        />
      </div>
      <fieldset className="grid gap-1">
        <legend className="pb-1 text-sm">Hull form</legend>
        <div className="flex flex-wrap gap-1.5">
          {choices.forms.map((f) => (
            <button
              key={f.name}
              type="button"
              aria-pressed={form?.name === f.name}
              className={form?.name === f.name ? "main-button" : "plain-button"}
              onClick={() => choose(f.name)}
            >
              {f.title}
            </button>
          ))}
          <OffsetsButton
            me={me}
            water={Number(d.water)}
            pressed={d.stations !== undefined}
            onRead={(stations) => setDraft({ ...d, stations })}
          />
        </div>
      </fieldset>
      {d.stations ? (
        <p>
          The hull stands by {d.stations.length} stations.{" "}
          {boat && (
            <a className="underline" href={`/api/crews/${me.crew_id}/boats/${boat.id}/offsets`} download="offsets.csv">
              Save the offsets as CSV
            </a>
          )}
        </p>
      ) : (
        <NumberFields
          fields={fields}
          values={d.values}
          onChange={(values) => setDraft({ ...d, values })}
          onFocus={setFocus}
          wrong={wrong}
          narrow
        />
      )}
      <OtherFaults v={preview.data} known={[...Object.keys(wrong)]} />
      <Extra
        label="Self-draining deck with scuppers"
        on={d.deck}
        onToggle={(deck) => setDraft(clearOfWell({ ...d, deck }, units))}
        fields={extra.deck}
        values={d.values}
        onChange={(values) => setDraft({ ...d, values })}
      />
      <Extra
        label="Splash well at the transom notch"
        on={d.well}
        onToggle={(well) => setDraft(clearOfWell({ ...d, well }, units))}
        fields={extra.well}
        values={d.values}
        onChange={(values) => setDraft({ ...d, values })}
      />
      <div className="grid gap-2 border-(--hair) border-t pt-2">
        <h2 className="label-type text-lg">Other openings where water comes in</h2>
        <Rows
          name="an opening"
          columns={floodColumns(units)}
          rows={d.floods}
          fresh={rowOf(floodColumns(units), { name: "hatch" })}
          onChange={(floods) => setDraft({ ...d, floods })}
        />
      </div>
      {boat && !d.stations && (
        <a className="underline" href={`/api/crews/${me.crew_id}/boats/${boat.id}/offsets`} download="offsets.csv">
          Save her offsets as CSV
        </a>
      )}
    </SaveForm>,
    true,
  );
}

/** Where there are both, the sole begins ahead of the well's bulkhead. */
function clearOfWell(d: Draft, units: Units): Draft {
  const { deck, well } = extraFields(units);
  const of = (key: string) => [...deck, ...well].find((f) => f.key === key) as NumberField;
  const [aft, length] = [of("deck_aft"), of("well_length")];
  const ends = readOne(length, d.values.well_length ?? "") ?? 0;
  if (!d.deck || !d.well || (readOne(aft, d.values.deck_aft ?? "") ?? 0) >= ends) return d;
  return { ...d, values: { ...d.values, ...typed([aft], { deck_aft: ends + 0.02 }) } };
}

/** Deck and well as boxes on the drawing. */
function openSpaces(hull: BoatInput["hull"], beam: number): Solid[] {
  const { deck, well } = hull;
  return [
    ...(deck
      ? [
          {
            name: "sole",
            corner: [deck.aft_m, -beam / 2, deck.sole_m],
            size: [deck.fore_m - deck.aft_m, beam, 0.004],
            unnamed: true,
          },
        ]
      : []),
    ...(well
      ? [
          {
            name: "well",
            corner: [0, -well.breadth_m / 2, well.floor_m],
            size: [well.length_m, well.breadth_m, well.bulkhead_m - well.floor_m],
          },
        ]
      : []),
  ].filter((q) => q.size.every((v) => v > 0)); // while it is being typed it may not be a box yet
}

/** What is wrong or looks wrong, by the measure's key. */
function wrongOf(v: Schemas["HullPreview"] | undefined, fields: NumberField[], units: Units): Record<string, string> {
  const wrong: Record<string, string> = {};
  const inUnits = (s: string, key: string) => {
    const f = fields.find((q) => q.key === key);
    const m = /^must be from ([\d.-]+) to ([\d.-]+)$/.exec(s);
    if (!m || !f || f.unit === "°") return s;
    return `must be from ${units.length(Number(m[1]))} to ${units.length(Number(m[2]))} ${f.unit}`;
  };
  for (const d of v?.doubts ?? []) wrong[d.key] = d.sentence;
  for (const f of v?.faults ?? []) {
    const key = /^hull\.measures\.(\w+)$/.exec(f.field)?.[1];
    if (key) wrong[key] = inUnits(f.sentence, key);
  }
  return wrong;
}

function OtherFaults({ v, known }: { v?: Schemas["HullPreview"]; known: string[] }) {
  const doubts = (v?.doubts ?? []).filter((d) => d.key === "stations");
  if (doubts.length > 0) return <Faults text="These offsets look wrong." details={doubts.map((d) => d.sentence)} />;
  const rest = (v?.faults ?? []).filter((f) => !known.some((k) => f.field === `hull.measures.${k}`));
  if (rest.length === 0) return null;
  return (
    <Faults
      text="These measures make no hull yet."
      details={rest.map((f) => `${f.field.replace(/^hull\./, "").replaceAll("_", " ")}: ${f.sentence}`)}
    />
  );
}

function HullFigures({ v, units, stale }: { v: Schemas["HullPreview"]; units: Units; stale: boolean }) {
  return (
    <p
      className="border-(--hair) border-t px-4 py-1 text-sm sm:py-2 sm:text-base"
      aria-live="polite"
      data-testid="hull-figures"
    >
      {stale ? (
        <span className="text-loud">The drawing is of the last measures that made a hull.</span>
      ) : (
        <>
          {units.length(v.length_m, 2)} × {units.length(v.beam_m, 2)} {units.lengthUnit} over all. Level, she carries{" "}
          {units.mass(v.full_kg)} {units.massUnit} before water comes in, herself included;{" "}
          {units.system === "us" ? "an inch" : "a centimetre"} is{" "}
          {units.mass(v.kg_per_cm * (units.system === "us" ? 2.54 : 1))} {units.massUnit}.
        </>
      )}
    </p>
  );
}

function Extra(props: {
  label: string;
  on: boolean;
  onToggle: (on: boolean) => void;
  fields: NumberField[];
  values: Values;
  onChange: (v: Values) => void;
}) {
  return (
    <div className="grid gap-2 border-(--hair) border-t pt-2">
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={props.on}
          onChange={(e) => props.onToggle(e.target.checked)}
        />
        {props.label}
      </label>
      {props.on && <NumberFields fields={props.fields} values={props.values} onChange={props.onChange} narrow />}
    </div>
  );
}

/** Reads a table of offsets from a file. */
function OffsetsButton(props: {
  me: Membership;
  water: number;
  pressed: boolean;
  onRead: (s: NonNullable<BoatInput["hull"]["stations"]>) => void;
}) {
  const reading = useMutation({
    mutationFn: async (file: File) =>
      api.post("/api/crews/{crew}/offsets", {
        params: { path: { crew: props.me.crew_id } },
        body: { csv: await file.text(), water_density_kg_m3: props.water },
      }),
    onSuccess: (o) => props.onRead(o.stations),
  });
  const pick = (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    if (file) reading.mutate(file);
    e.target.value = "";
  };
  return (
    <>
      <label
        className={`${props.pressed ? "main-button" : "plain-button"} flex cursor-pointer items-center focus-within:outline-3 focus-within:outline-accent`}
      >
        Anything else: offsets (CSV)
        <input
          type="file"
          accept=".csv,text/csv,text/plain"
          className="sr-only"
          aria-label="Offsets, a CSV file"
          onChange={pick}
        />
      </label>
      {reading.error && (
        <Faults
          text={sayError(reading.error)}
          details={reading.error instanceof Refusal ? reading.error.details : []}
        />
      )}
      <p className="quiet w-full text-sm">
        A row a point, from keel to sheer and aft to fore, under the header station, x_m, y_m, z_m (or _cm, _mm, _ft,
        _in).
      </p>
    </>
  );
}
