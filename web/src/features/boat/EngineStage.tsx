import { useQuery } from "@tanstack/react-query";
import { ask } from "../../api/ask";
import { howMany } from "../../domain/howMany";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { Choice, SaveForm } from "../../ui/Form";
import { type Column, type Row, Rows, rowOf, valuesOf } from "../../ui/Rows";
import { useDraft } from "../../ui/useDraft";
import { HowSheLies } from "./HowSheLies";
import type { StageProps } from "./SetupPage";
import { type BoatInput, useSaveBoat } from "./useBoat";

type Outfit = BoatInput["outfit"];

const KINDS = WORDS.mass_kinds;

export function lengthColumns(units: Units, columns: [string, string][]): Column[] {
  return columns.map(([key, label]) => ({
    kind: "number",
    key,
    label,
    unit: units.lengthUnit,
    si: units.lengthSI,
  }));
}

function massColumns(units: Units): Column[] {
  return [
    { kind: "text", key: "name", label: "What" },
    { kind: "choice", key: "kind", label: "Kind", options: KINDS },
    { kind: "choice", key: "known", label: "Mass is", options: WORDS.mass_known },
    { kind: "number", key: "kg", label: "Mass", unit: units.massUnit, si: units.massSI },
    ...lengthColumns(units, [
      ["x", "From transom"],
      ["z", "Over keel"],
      ["y", "To port"],
    ]),
  ];
}

function foamColumns(units: Units): Column[] {
  return [
    { kind: "text", key: "name", label: "Foam" },
    ...lengthColumns(units, [
      ["x0", "From"],
      ["x1", "To"],
      ["y0", "Starboard edge"],
      ["y1", "Port edge"],
      ["z0", "Foot"],
      ["z1", "Top"],
    ]),
    { kind: "check", key: "in", label: "How full it is now" },
  ];
}

function sailColumns(units: Units): Column[] {
  return [
    { kind: "text", key: "name", label: "Height and area over the deck" },
    { kind: "number", key: "area_m2", label: "Area", unit: "m²", si: 1 },
    ...lengthColumns(units, [["z_m", "Centre over the keel"]]),
  ];
}

const MATERIALS = WORDS.materials;

const PROPULSION = WORDS.propulsion;

const BOAT_KINDS = WORDS.boat_kinds;

/** Hull, motor, batteries and fittings as masses; foam; what catches the wind. */
export function EngineStage({ me, boat, frame, onDone, choices }: StageProps) {
  const units = unitsOf(me.units);
  const save = useSaveBoat(me, boat);
  const bench = useQuery(ask.bench(me.crew_id, boat.id));
  const o = boat.outfit;
  const mass = massColumns(units);
  const foam = foamColumns(units);
  const sail = sailColumns(units);
  const scope = `${me.crew_id}.boat.${boat.id}.engine.${me.units}`;
  const [masses, setMasses] = useDraft(
    `${scope}.masses`,
    o.masses.map((m) => rowOf(mass, { ...m, x: m.at_m[0], y: m.at_m[1], z: m.at_m[2] })),
  );
  const [foams, setFoams] = useDraft(
    `${scope}.foams`,
    (o.foam ?? []).map((f) =>
      rowOf(foam, {
        ...f,
        x0: f.low_m[0],
        x1: f.high_m[0],
        y0: f.low_m[1],
        y1: f.high_m[1],
        z0: f.low_m[2],
        z1: f.high_m[2],
      }),
    ),
  );
  const [sails, setSails] = useDraft(
    `${scope}.sails`,
    (o.sails ?? []).map((s) => rowOf(sail, s)),
  );
  const [about, setAbout] = useDraft(`${scope}.about`, {
    material: o.material ?? "glass",
    propulsion: o.propulsion ?? "outboard",
    kind: o.kind ?? "monohull",
    remote_steering: o.remote_steering ?? false,
  });
  const [power, setPower] = useDraft<{ kw?: number }>(`${scope}.power`, { kw: o.carriage?.power_kw });
  const outfit = (): Outfit => ({
    ...o,
    ...about,
    // What rules ask by power, and what the starter draws, go by the motor that was chosen here.
    ...(power.kw === o.carriage?.power_kw ? {} : { carriage: { ...o.carriage, power_kw: power.kw, electric: false } }),
    masses: masses.map((r) => {
      const { x, y, z, ...v } = valuesOf(mass, r);
      return { ...v, at_m: [x, y, z] } as Outfit["masses"][number];
    }),
    foam: foams.map((r) => {
      const v = valuesOf(foam, r);
      return { name: v.name, in: v.in, low_m: [v.x0, v.y0, v.z0], high_m: [v.x1, v.y1, v.z1] } as NonNullable<
        Outfit["foam"]
      >[number];
    }),
    sails: sails.map((r) => valuesOf(sail, r) as unknown as NonNullable<Outfit["sails"]>[number]),
  });
  const submit = async () => {
    await save({ ...boat, outfit: outfit() }, "engine");
    onDone();
  };
  const shown = attempt(outfit) ?? o;
  const kg = shown.masses.reduce((s, m) => s + m.kg, 0);
  return frame(
    <>
      <p className="quiet px-4 pt-3">
        {howMany(shown.masses.length, "mass that is", "masses that are")} always aboard, {units.mass(kg)}{" "}
        {units.massUnit}. Weigh what is heavy and far from the middle first.
      </p>
      {bench.data && (
        <BoatDrawing
          lines={bench.data.lines}
          name={boat.name}
          attitude={bench.data.state.now.attitude}
          dots={shown.masses.map((m) => ({
            name: `${m.name}, ${units.mass(m.kg)} ${units.massUnit}`,
            at: m.at_m,
            shape: "mass" as const,
          }))}
          solids={(shown.foam ?? []).map((f) => ({
            name: f.name,
            corner: f.low_m,
            size: f.high_m.map((v, i) => v - (f.low_m[i] ?? 0)),
            quiet: !f.in,
          }))}
        />
      )}
    </>,
    <SaveForm draft={scope} name="Engine and weights" button="Save and continue" save={submit}>
      <HowSheLies bench={bench.data} units={units} />
      <h2 className="label-type text-xl">Hull, motor, batteries, fittings</h2>
      <Choice
        label="Her motor, as such motors usually weigh"
        value=""
        options={[
          ["", "choose its power…"] as const,
          ...choices.motors.map((m) => [String(m.hp), `${m.hp} hp, ${units.mass(m.kg)} ${units.massUnit}`] as const),
        ]}
        onChange={(hp) => {
          const m = choices.motors.find((q) => String(q.hp) === hp);
          if (!m) return;
          setMasses(withMotor(masses, mass, m, boat));
          setPower({ kw: Math.round(m.kw * 10) / 10 });
        }}
      />
      <Rows
        name="a mass"
        columns={mass}
        rows={masses}
        fresh={rowOf(mass, { name: "", kind: "battery", known: "catalogue", kg: 0, x: 0, y: 0, z: 0 })}
        onChange={setMasses}
      />
      <h2 className="label-type border-(--hair) border-t pt-3 text-xl">Kind of boat and load</h2>
      <div className="grid grid-cols-2 gap-4">
        <Choice
          label="Hull material"
          value={about.material}
          options={MATERIALS}
          onChange={(material) => setAbout({ ...about, material })}
        />
        <Choice
          label="Engine"
          value={about.propulsion}
          options={PROPULSION}
          onChange={(propulsion) => setAbout({ ...about, propulsion })}
        />
        <Choice
          label="Kind of boat"
          value={about.kind}
          options={BOAT_KINDS}
          onChange={(kind) => setAbout({ ...about, kind })}
        />
        <label className="flex min-h-11 items-end gap-2 pb-2 text-sm">
          <input
            type="checkbox"
            className="checkbox"
            checked={about.remote_steering}
            onChange={(e) => setAbout({ ...about, remote_steering: e.target.checked })}
          />
          wheel steering, transom of 20 in or more
        </label>
      </div>
      <h2 className="label-type border-(--hair) border-t pt-3 text-xl">Foam</h2>
      <p className="quiet text-sm">
        Boxes of closed-cell foam; what of a box lies in the hull counts. It says how she lies full of water, and what
        taking some out costs.
      </p>
      <Rows name="foam" columns={foam} rows={foams} fresh={rowOf(foam, { name: "", in: true })} onChange={setFoams} />
      <h2 className="label-type border-(--hair) border-t pt-3 text-xl">Windage</h2>
      <Rows
        name="a console or canopy"
        columns={sail}
        rows={sails}
        fresh={rowOf(sail, { name: "" })}
        onChange={setSails}
      />
    </SaveForm>,
  );
}

/** The list with a motor of that power: the first there is changed, else one is added at the transom. */
function withMotor(rows: Row[], columns: Column[], m: { hp: number; kg: number }, boat: StageProps["boat"]): Row[] {
  const depth = boat.hull.measures?.depth_aft_m ?? boat.hull.measures?.notch_m ?? 0.5;
  const fresh = { name: `motor, ${m.hp} hp`, kind: "motor", known: "guess", kg: m.kg, x: -0.15, y: 0, z: depth };
  const at = rows.findIndex((r) => r.kind === "motor");
  if (at < 0) return [...rows, rowOf(columns, fresh)];
  const { name, known, kg } = rowOf(columns, fresh);
  return rows.map((r, i) => (i === at ? { ...r, name, known, kg } : r)) as Row[];
}

/** The result, or undefined while a text is no number yet. */
export function attempt<T>(make: () => T): T | undefined {
  try {
    return make();
  } catch {
    return undefined;
  }
}
