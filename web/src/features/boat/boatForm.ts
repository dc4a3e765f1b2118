import type { Schemas } from "../../api/client";
import type { NumberField } from "../../ui/Form";
import type { Units } from "../../units";

type BoatInput = Schemas["BoatInput"];
type Chine = NonNullable<BoatInput["hull"]["chine"]>;

/** A likely small boat to begin from; every number of it is to be measured. */
export function freshBoat(): BoatInput {
  return {
    name: "",
    water_density_kg_m3: 1025,
    hull: {
      chine: {
        length_m: 4.8,
        beam_m: 1.9,
        transom_beam_m: 1.75,
        chine_beam_m: 1.55,
        transom_chine_beam_m: 1.5,
        transom_deadrise_deg: 10,
        amidships_deadrise_deg: 13,
        depth_aft_m: 0.65,
        depth_amidships_m: 0.68,
        depth_forward_m: 0.9,
        forefoot_m: 1.6,
        notch_m: 0.5,
      },
    },
    outfit: {
      masses: [
        { name: "hull", kind: "hull", kg: 260, at_m: [2.0, 0, 0.35], known: "guess" },
        { name: "motor", kind: "motor", kg: 75, at_m: [-0.12, 0, 0.55], known: "catalogue" },
      ],
      tanks: [],
    },
    plate: { max_kg: 0, max_persons: 4, includes: ["persons", "gear"], source: "builder's plate" },
    limits: {
      freeboard_m: { value: 0.2, source: "practice" },
      heel_deg: { value: 2, source: "practice" },
      trim_low_deg: { value: 0, source: "practice" },
      trim_high_deg: { value: 1.5, source: "practice" },
    },
  };
}

/** The twelve tape measures. */
export function hullFields(units: Units): NumberField[] {
  const m = (key: keyof Chine, label: string, hint?: string) => ({
    key,
    label,
    unit: units.lengthUnit,
    si: units.lengthSI,
    hint,
  });
  const deg = (key: keyof Chine, label: string, hint?: string) => ({ key, label, unit: "°", si: 1, hint });
  return [
    m("length_m", "Length", "transom to stem, at the sheer"),
    m("beam_m", "Beam", "greatest, at the sheer"),
    m("transom_beam_m", "Beam at the transom", "at the sheer"),
    m("chine_beam_m", "Chine beam", "greatest"),
    m("transom_chine_beam_m", "Chine beam at the transom"),
    deg("transom_deadrise_deg", "Deadrise at the transom"),
    deg("amidships_deadrise_deg", "Deadrise amidships"),
    m("depth_aft_m", "Side depth aft", "keel to sheer"),
    m("depth_amidships_m", "Side depth amidships"),
    m("depth_forward_m", "Height of the stem", "over the lowest keel"),
    m("forefoot_m", "Forefoot", "stem to where the keel begins to rise"),
    m("notch_m", "Transom notch", "keel to its lowest edge"),
  ];
}

/** Masses, plate and limits. */
export function loadFields(units: Units): NumberField[] {
  const kg = (key: string, label: string, hint?: string) => ({
    key,
    label,
    unit: units.massUnit,
    si: units.massSI,
    hint,
  });
  const m = (key: string, label: string, hint?: string) => ({
    key,
    label,
    unit: units.lengthUnit,
    si: units.lengthSI,
    hint,
  });
  return [
    kg("hull_kg", "Hull's mass", "with all that is fixed to her"),
    m("hull_x", "Its centre, forward of the transom"),
    m("hull_z", "Its centre, over the keel"),
    kg("motor_kg", "Motor's mass"),
    kg("plate_kg", "Plate: greatest load", "0 where she has no plate"),
    { key: "plate_persons", label: "Plate: people", unit: "", si: 1 },
    m("freeboard", "Least freeboard you accept"),
    { key: "heel", label: "Greatest heel", unit: "°", si: 1 },
    { key: "trim_low", label: "Least trim, bow up", unit: "°", si: 1 },
    { key: "trim_high", label: "Greatest trim, bow up", unit: "°", si: 1 },
  ];
}

function part(b: BoatInput, kind: "hull" | "motor") {
  return b.outfit.masses.find((m) => m.kind === kind);
}

/** The form's numbers, in SI. */
export function numbersOf(b: BoatInput): Record<string, number> {
  return {
    ...b.hull.chine,
    hull_kg: part(b, "hull")?.kg ?? 0,
    hull_x: part(b, "hull")?.at_m[0] ?? 0,
    hull_z: part(b, "hull")?.at_m[2] ?? 0,
    motor_kg: part(b, "motor")?.kg ?? 0,
    plate_kg: b.plate.max_kg,
    plate_persons: b.plate.max_persons,
    freeboard: b.limits.freeboard_m.value,
    heel: b.limits.heel_deg.value,
    trim_low: b.limits.trim_low_deg.value,
    trim_high: b.limits.trim_high_deg.value,
  };
}

/** The boat with the form's numbers put in; what the form does not show stays. */
export function withNumbers(b: BoatInput, n: Record<string, number>): BoatInput {
  const at = (key: string) => n[key] ?? 0;
  const chine = b.hull.chine && (Object.fromEntries(Object.keys(b.hull.chine).map((k) => [k, at(k)])) as Chine);
  const hull = part(b, "hull");
  const motor = part(b, "motor");
  const masses = b.outfit.masses.map((m) => {
    if (m === hull) return { ...m, kg: at("hull_kg"), at_m: [at("hull_x"), m.at_m[1], at("hull_z")] as typeof m.at_m };
    return m === motor ? { ...m, kg: at("motor_kg") } : m;
  });
  const limit = (old: BoatInput["limits"]["heel_deg"], value: number) =>
    Math.abs(value - old.value) < 1e-6 ? old : { value, source: "skipper" as const };
  return {
    name: b.name,
    water_density_kg_m3: b.water_density_kg_m3,
    hull: { ...b.hull, chine },
    outfit: { ...b.outfit, masses },
    plate: { ...b.plate, max_kg: at("plate_kg"), max_persons: at("plate_persons") },
    limits: {
      freeboard_m: limit(b.limits.freeboard_m, at("freeboard")),
      heel_deg: limit(b.limits.heel_deg, at("heel")),
      trim_low_deg: limit(b.limits.trim_low_deg, at("trim_low")),
      trim_high_deg: limit(b.limits.trim_high_deg, at("trim_high")),
    },
  };
}
