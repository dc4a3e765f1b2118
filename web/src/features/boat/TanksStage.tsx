import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/ask";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { Choice, Loose, type NumberField, readOne, SaveForm, type Values } from "../../ui/Form";
import { lengthField } from "../../ui/fields";
import { type Column, Rows, rowOf, valuesOf } from "../../ui/Rows";
import { useDraft } from "../../ui/useDraft";
import { attempt, lengthColumns } from "./EngineStage";
import { HowSheLies } from "./HowSheLies";
import type { StageProps } from "./SetupPage";
import { type BoatInput, useSaveBoat } from "./useBoat";

type Tank = BoatInput["outfit"]["tanks"][number];

const KINDS = WORDS.tank_kinds;

const LEVELS = WORDS.level_known;

const DENSITY = { fuel: 740, livewell: 1000, water: 1000, bilge: 1025 };

function columns(units: Units): Column[] {
  return [
    { kind: "text", key: "name", label: "Tank" },
    { kind: "choice", key: "kind", label: "Holds", options: KINDS },
    { kind: "choice", key: "known", label: "Level is", options: LEVELS },
    ...lengthColumns(units, [
      ["dx", "Length"],
      ["dy", "Breadth"],
      ["dz", "Height"],
      ["x", "Aft edge"],
      ["y", "Starboard edge"],
      ["z", "Foot"],
    ]),
    { kind: "number", key: "fill", label: "Full", unit: "%", si: 0.01 },
    { kind: "number", key: "unusable_l", label: "Can't be drawn", unit: units.volumeUnit, si: units.volumeSI },
    { kind: "check", key: "in_hull", label: "Built into the hull: has her own shape inside this box" },
  ];
}

function toRow(c: Column[], t: Tank) {
  const [x, y, z] = t.corner_m;
  const [dx, dy, dz] = t.size_m;
  return rowOf(c, { ...t, known: t.known ?? "gauge", x, y, z, dx, dy, dz });
}

function toTank(c: Column[], row: Record<string, string>, water: number): Tank {
  const { x, y, z, dx, dy, dz, ...v } = valuesOf(c, row);
  const kind = v.kind as keyof typeof DENSITY;
  const density = kind === "livewell" || kind === "bilge" ? water : DENSITY[kind];
  return { ...v, corner_m: [x, y, z], size_m: [dx, dy, dz], density_kg_m3: density } as Tank;
}

const ENDS_AT = [3, 2.4, 1] as const; // length, breadth and height of a usual tank, in proportion. Practice.

/** A tank of so many litres in the shape that tanks usually have; its sides are put right below. */
function tankOf(kind: keyof typeof DENSITY, litres: number, middle: number): Tank {
  const unit = Math.cbrt(litres / 1000 / (ENDS_AT[0] * ENDS_AT[1] * ENDS_AT[2]));
  const size = ENDS_AT.map((v) => Math.round(v * unit * 200) / 200) as [number, number, number];
  const name = kind === "fuel" ? "fuel tank" : kind;
  return {
    name,
    kind,
    known: "gauge",
    size_m: size,
    corner_m: [Math.max(0, middle - size[0] / 2), -size[1] / 2, 0.1],
    fill: kind === "fuel" ? 0.5 : 0,
    density_kg_m3: DENSITY[kind],
  };
}

function ByLitres({ units, onAdd }: { units: Units; onAdd: (t: Tank) => void }) {
  const volume: NumberField = { key: "litres", label: "Holds", unit: units.volumeUnit, si: units.volumeSI };
  const middle = lengthField(units)("middle", "Its middle, from the transom");
  const [values, setValues] = useState<Values>({ litres: "", middle: "" });
  const [kind, setKind] = useState<keyof typeof DENSITY>("fuel");
  const [litres, at] = [readOne(volume, values.litres ?? ""), readOne(middle, values.middle ?? "")];
  return (
    <div className="grid grid-cols-3 items-end gap-2">
      <Choice label="What" value={kind} options={KINDS} onChange={(k) => setKind(k as keyof typeof DENSITY)} />
      {[volume, middle].map((f) => (
        <Loose
          key={f.key}
          label={f.label}
          unit={f.unit}
          value={values[f.key] ?? ""}
          onChange={(v) => setValues({ ...values, [f.key]: v })}
        />
      ))}
      <button
        type="button"
        className="plain-button col-span-3 justify-self-start"
        disabled={!litres || at === undefined}
        onClick={() => {
          if (!litres || at === undefined) return;
          onAdd(tankOf(kind, litres, at));
          setValues({ litres: "", middle: "" });
        }}
      >
        Add a tank of that size
      </button>
    </div>
  );
}

export function TanksStage({ me, boat, frame, onDone }: StageProps) {
  const units = unitsOf(me.units);
  const save = useSaveBoat(me, boat);
  const bench = useQuery(ask.bench(me.crew_id, boat.id));
  const c = columns(units);
  const scope = `${me.crew_id}.boat.${boat.id}.tanks.${me.units}`;
  const [rows, setRows] = useDraft(
    `${scope}.rows`,
    boat.outfit.tanks.map((t) => toRow(c, t)),
  );
  const tanks = () => rows.map((r) => toTank(c, r, boat.water_density_kg_m3));
  const submit = async () => {
    await save({ ...boat, outfit: { ...boat.outfit, tanks: tanks() } }, "tanks");
    onDone();
  };
  const shown = attempt(tanks) ?? boat.outfit.tanks;
  return frame(
    <>
      <p className="quiet px-4 pt-3">
        What empties during the day belongs near the middle. Slack liquid makes her tender; the float page says by how
        much.
      </p>
      {bench.data && (
        <BoatDrawing
          lines={bench.data.lines}
          name={boat.name}
          attitude={bench.data.state.now.attitude}
          solids={shown.map((t) => ({ name: t.name, corner: t.corner_m, size: t.size_m, fill: t.fill }))}
        />
      )}
    </>,
    <SaveForm draft={scope} name="Tanks" button="Save and continue" save={submit}>
      <HowSheLies bench={bench.data} units={units} />
      <h2 className="label-type text-xl">Fuel, livewells, water</h2>
      <ByLitres units={units} onAdd={(t) => setRows([...rows, toRow(c, t)])} />
      {rows.length === 0 && <p className="quiet">She has none yet. A portable can is gear, not a tank.</p>}
      <Rows
        name="a tank"
        columns={c}
        rows={rows}
        fresh={rowOf(c, {
          name: "fuel tank",
          kind: "fuel",
          dx: 0.6,
          dy: 0.5,
          dz: 0.2,
          x: 1.2,
          y: -0.25,
          z: 0.1,
          fill: 0.5,
        })}
        onChange={setRows}
      />
      <p className="quiet text-sm">Fuel vapour burns: leave an air gap, vent outboard, keep sparks away.</p>
    </SaveForm>,
  );
}
