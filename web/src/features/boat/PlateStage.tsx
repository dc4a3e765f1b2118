import { useQuery } from "@tanstack/react-query";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { Choice, type NumberField, NumberFields, read, SaveForm, TextField, typed } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";
import type { StageProps } from "./SetupPage";
import { type BoatInput, useSaveBoat } from "./useBoat";

const COUNTS = WORDS.counted;

const SOURCES = WORDS.limit_sources;

const LIMITS = ["freeboard_m", "heel_deg", "trim_low_deg", "trim_high_deg"] as const;

function fields(units: Units): { plate: NumberField[]; limits: NumberField[] } {
  const m = { unit: units.lengthUnit, si: units.lengthSI };
  const deg = { unit: "°", si: 1 };
  return {
    plate: [
      {
        key: "max_kg",
        label: "Greatest load",
        unit: units.massUnit,
        si: units.massSI,
        hint: "0 where she has no plate",
      },
      { key: "max_persons", label: "People", unit: "", si: 1 },
    ],
    limits: [
      { key: "freeboard_m", label: "Least freeboard", ...m },
      { key: "heel_deg", label: "Greatest heel", ...deg },
      { key: "trim_low_deg", label: "Least trim, bow up", ...deg },
      { key: "trim_high_deg", label: "Greatest trim, bow up", ...deg },
    ],
  };
}

export function PlateStage({ me, boat, frame, onDone }: StageProps) {
  const units = unitsOf(me.units);
  const save = useSaveBoat(me, boat);
  const bench = useQuery(ask.bench(me.crew_id, boat.id));
  const report = useQuery(askBoat.float(me.crew_id, boat.id));
  const f = fields(units);
  const scope = `${me.crew_id}.boat.${boat.id}.plate.${me.units}`;
  const [plate, setPlate] = useDraft(
    `${scope}.plate`,
    typed(f.plate, { max_kg: boat.plate.max_kg, max_persons: boat.plate.max_persons }),
  );
  const [source, setSource] = useDraft(`${scope}.source`, boat.plate.source || "builder's plate");
  const [counts, setCounts] = useDraft<readonly string[]>(`${scope}.counts`, boat.plate.includes);
  const [limits, setLimits] = useDraft(
    `${scope}.limits`,
    typed(f.limits, Object.fromEntries(LIMITS.map((k) => [k, boat.limits[k].value]))),
  );
  const [sources, setSources] = useDraft(
    `${scope}.sources`,
    Object.fromEntries(LIMITS.map((k) => [k, boat.limits[k].source])),
  );
  const submit = async () => {
    const p = read(f.plate, plate);
    const l = read(f.limits, limits);
    await save(
      {
        ...boat,
        plate: {
          max_kg: p.max_kg ?? 0,
          max_persons: Math.round(p.max_persons ?? 0),
          source,
          includes: COUNTS.map(([k]) => k).filter((k) => counts.includes(k)),
        },
        limits: Object.fromEntries(
          LIMITS.map((k) => [k, { value: l[k] ?? 0, source: sources[k] }]),
        ) as BoatInput["limits"],
      },
      "plate",
    );
    onDone();
  };
  const capacity = report.data?.capacity;
  const take = () => {
    if (!capacity) return;
    // By the rule: persons, motor and gear; the motor is counted apart here, so it comes off.
    const motor = boat.outfit.masses
      .filter((m) => m.kind === "motor" || m.kind === "battery")
      .reduce((s, m) => s + m.kg, 0);
    setPlate(typed(f.plate, { max_kg: Math.max(0, capacity.weight_kg - motor), max_persons: capacity.persons }));
    setSource("computed after 33 CFR 183, from memory");
    setCounts(["persons", "gear", "fuel"]);
  };
  const attitude = bench.data?.state.now.attitude;
  return frame(
    <>
      <p className="quiet px-4 pt-3">
        The plate and the law where you are decide; these figures help to keep within them. Still-water freeboard is not
        a seaworthiness test.
      </p>
      {bench.data && <BoatDrawing lines={bench.data.lines} name={boat.name} attitude={attitude} />}
    </>,
    <SaveForm draft={scope} name="Plate and limits" button="Save and continue" save={submit}>
      <h2 className="label-type text-xl">Builder's plate</h2>
      <NumberFields fields={f.plate} values={plate} onChange={setPlate} narrow />
      <TextField label="Where the figures come from" value={source} onChange={setSource} />
      <fieldset>
        <legend className="text-sm">The greatest load counts</legend>
        <div className="grid grid-cols-2">
          {COUNTS.map(([key, label]) => (
            <label key={key} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox"
                checked={counts.includes(key)}
                onChange={(e) => setCounts(e.target.checked ? [...counts, key] : counts.filter((k) => k !== key))}
              />
              {label}
            </label>
          ))}
        </div>
      </fieldset>
      <div className="border border-(--hair) bg-base-100 p-3" data-testid="capacity">
        <h3 className="label-type text-lg">Without a plate</h3>
        {capacity ? (
          <>
            <p>{capacity.applies ? capacity.sentence : `No figure: ${capacity.why}.`}</p>
            {capacity.applies && (
              <>
                <p className="quiet text-sm">
                  {capacity.side_load_kg === undefined
                    ? "Her persons weight is over 550 lb, so no side-load test is asked for."
                    : `Side-load test: ${units.mass(capacity.side_load_kg)} ${units.massUnit} at the edge of the seats brings the water to her edge.`}{" "}
                  {capacity.horsepower > 0 && `Outboard up to ${capacity.horsepower} hp.`}
                </p>
                <button type="button" className="plain-button mt-2" onClick={take}>
                  Use as the limit
                </button>
              </>
            )}
          </>
        ) : (
          <p className="quiet">Working it out…</p>
        )}
      </div>
      <h2 className="label-type text-xl">Limits the crew sets</h2>
      {f.limits.map((field) => (
        <div key={field.key} className="grid grid-cols-2 items-end gap-4">
          <NumberFields fields={[field]} values={limits} onChange={setLimits} narrow="single" />
          <Choice
            label={`Source of ${field.label.toLowerCase()}`}
            value={sources[field.key] ?? "practice"}
            options={SOURCES}
            onChange={(v) => setSources({ ...sources, [field.key]: v })}
          />
        </div>
      ))}
    </SaveForm>,
  );
}
