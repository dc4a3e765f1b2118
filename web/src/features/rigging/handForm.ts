import type { Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { NotANumber, type NumberField, readOne, type Values, written } from "../../ui/Form";

export type FittingInput = Schemas["FittingInput"];
export type FittingView = Schemas["FittingView"];

/** A fitting in hand: what is chosen of it, and its numbers as they are typed. */
export type Hand = {
  id?: string; // of one that is mounted already
  version?: number;
  chosen: FittingInput;
  values: Values;
  doubts?: string[];
};

/** A number of a fitting: where it is in the input, and what it is when left empty. */
type Field = NumberField & {
  get: (f: FittingInput) => number | undefined;
  set: (f: FittingInput, n: number | undefined) => void;
  optional?: boolean;
};

const KNOT = 1852 / 3600;
const KMH = 1 / 3.6;
const MILE = 1609.344 / 3600;

export function fieldsOf(units: Units, sea: boolean) {
  const side = { unit: units.sideUnit, si: units.sideSI };
  const mm = { unit: "mm", si: 1 };
  const degrees = { unit: "°", si: 1 };
  const pace = sea
    ? { unit: "kn", si: KNOT }
    : units.system === "us"
      ? { unit: "mph", si: MILE }
      : { unit: "km/h", si: KMH };
  const at = (k: 0 | 1 | 2, key: string, label: string, hint?: string): Field => ({
    key,
    label,
    hint,
    ...side,
    get: (f) => f.lies.at_m[k],
    set: (f, n) => {
      f.lies.at_m[k] = n ?? 0;
    },
  });
  const size = (k: 0 | 1 | 2, key: string, label: string): Field => ({
    key,
    label,
    ...side,
    get: (f) => f.lies.size_m[k],
    set: (f, n) => {
      f.lies.size_m[k] = n ?? 0;
    },
  });
  const lies = (
    key: "rated_n" | "legs_m" | "turn_deg" | "lean_deg" | "swing_m" | "rod_m" | "screen_m" | "beam_deg",
    label: string,
    u: { unit: string; si: number },
    hint?: string,
  ): Field => ({
    key,
    label,
    hint,
    ...u,
    optional: true,
    get: (f) => f.lies[key] ?? 0,
    set: (f, n) => {
      f.lies[key] = n ?? 0;
    },
  });
  const held = (
    key: "length_mm" | "count" | "panel_mm" | "skin_mm" | "base_mm" | "room_mm" | "corner_mm" | "curve_mm",
    label: string,
    u: { unit: string; si: number },
    hint?: string,
  ): Field => ({
    key,
    label,
    hint,
    ...u,
    optional: true,
    get: (f) => f.held[key] || undefined,
    set: (f, n) => {
      f.held[key] = n ?? 0;
    },
  });
  const foot = (k: 0 | 1, key: string, label: string): Field => ({
    key,
    label,
    ...mm,
    get: (f) => f.held.foot_mm[k],
    set: (f, n) => {
      f.held.foot_mm[k] = n ?? 0;
    },
  });
  const cut = (k: 0 | 1, key: string, label: string): Field => ({
    key,
    label,
    ...mm,
    optional: true,
    get: (f) => f.held.cut_mm?.[k] || undefined,
    set: (f, n) => {
      f.held.cut_mm = k === 0 ? [n ?? 0, f.held.cut_mm?.[1] ?? 0] : [f.held.cut_mm?.[0] ?? 0, n ?? 0];
    },
  });
  const pole = (
    key: "wet_m" | "diameter_m" | "clamp_to_water_m" | "foot_area_m2" | "speed_m_s" | "holds_n_m" | "brace_m",
    label: string,
    u: { unit: string; si: number },
    hint?: string,
  ): Field => ({
    key,
    label,
    hint,
    ...u,
    optional: true,
    get: (f) => f.held.pole?.[key],
    set: (f, n) => {
      if (f.held.pole) f.held.pole[key] = n ?? 0;
    },
  });
  return {
    where: [
      at(0, "x", "From the transom"),
      at(1, "y", "Off the middle", "port +, starboard −"),
      at(2, "z", "Height of its foot", "over the keel"),
    ],
    turn: [
      lies("turn_deg", "Faces", degrees, "0 ahead, 90 to port"),
      lies("lean_deg", "Leans", degrees, "towards where it faces"),
    ],
    size: [
      size(0, "length", "Length"),
      size(1, "breadth", "Breadth"),
      size(2, "height", "Height"),
      lies("legs_m", "Legs under it", side, "or its pedestal, its arm"),
    ],
    kind: {
      "rod-holder": [lies("rod_m", "Rod in it", side)],
      seat: [lies("swing_m", "Sweeps, turning", side, "from its middle; 0 if fixed")],
      display: [lies("screen_m", "Screen, diagonal", side), lies("swing_m", "Sweeps, turning", side, "0 if fixed")],
      "tie-down": [
        lies("rated_n", "Its strap is rated", { unit: units.strapUnit, si: units.strapSI }, "0 for a usual one"),
      ],
      light: [lies("beam_deg", "Beam", degrees, "the whole angle")],
      "bow-motor": [lies("swing_m", "Sweeps, turning", side, "0 if it lies still")],
    } as Partial<Record<FittingInput["kind"], Field[]>>,
    mass: [
      {
        key: "kg",
        label: "Mass",
        unit: units.massUnit,
        si: units.massSI,
        get: (f) => f.kg,
        set: (f, n) => {
          f.kg = n ?? 0;
        },
      } as Field,
    ],
    foot: [foot(0, "foot_a", "Foot, along"), foot(1, "foot_b", "Foot, across")],
    screws: [held("count", "How many", { unit: "", si: 1 }), held("length_mm", "Length", mm, "empty if nobody knows")],
    panel: [
      held("panel_mm", "Panel, thick", mm, "empty for a guess"),
      held("skin_mm", "One skin", mm, "of a cored panel"),
      held("base_mm", "Its own foot, thick", mm),
      {
        key: "behind_mm",
        label: "Free behind",
        hint: "empty where nothing is near",
        ...mm,
        optional: true,
        get: (f) => f.held.behind_mm,
        set: (f, n) => {
          if (n === undefined) delete f.held.behind_mm;
          else f.held.behind_mm = n;
        },
      } as Field,
      held("room_mm", "Room for the drill", mm, "empty for plenty"),
    ],
    cut: [
      cut(0, "cut_a", "Cut-out, along"),
      cut(1, "cut_b", "Cut-out, across"),
      held("corner_mm", "Its corners, radius", mm),
      held("curve_mm", "Radius of the wall", mm, "empty where it is flat"),
    ],
    pole: [
      pole("wet_m", "Under water", side),
      pole("diameter_m", "Thick", { unit: "mm", si: 0.001 }),
      pole("clamp_to_water_m", "Clamp to water", side),
      pole("foot_area_m2", "What hangs at its foot", { unit: "cm²", si: 1e-4 }, "seen from ahead"),
      pole("speed_m_s", "Used up to", pace),
      pole(
        "holds_n_m",
        "Clamp holds",
        { unit: units.torqueUnit, si: units.torqueSI },
        units.system === "us"
          ? "luggage scale: pounds × arm in feet; empty if nobody pulled"
          : "luggage scale: kg × 9.8 × arm in m; empty if nobody pulled",
      ),
      pole("brace_m", "Brace below the clamp", side, "0 for none"),
    ],
    look: [
      {
        key: "every_days",
        label: "Every so many days",
        unit: "",
        si: 1,
        optional: true,
        get: (f) => f.look.every_days || undefined,
        set: (f, n) => {
          f.look.every_days = Math.round(n ?? 0);
        },
      } as Field,
      {
        key: "every_trips",
        label: "Every so many trips",
        unit: "",
        si: 1,
        optional: true,
        get: (f) => f.look.every_trips || undefined,
        set: (f, n) => {
          f.look.every_trips = Math.round(n ?? 0);
        },
      } as Field,
    ],
    minutes: [
      {
        key: "minutes",
        label: "One way takes",
        unit: "min",
        si: 1,
        optional: true,
        get: (f) => f.moving?.minutes || undefined,
        set: (f, n) => {
          f.moving = { ...f.moving, minutes: n ?? 0 };
        },
      } as Field,
    ],
    cost: [
      {
        key: "cost",
        label: "Cost",
        unit: "",
        si: 1,
        optional: true,
        get: (f) => f.cost,
        set: (f, n) => {
          if (n === undefined) delete f.cost;
          else f.cost = n;
        },
      } as Field,
    ],
  };
}

export type Fields = ReturnType<typeof fieldsOf>;

function all(fields: Fields): Field[] {
  const { kind, ...rest } = fields;
  return [...Object.values(rest).flat(), ...Object.values(kind).flat()];
}

/** What a view says beside what is entered. */
const SHOWN = ["story", "folds_at_m_s", "doubts", "base_id", "boat", "off"] as const;

/** A fitting as it is taken in hand. */
export function handOf(fields: Fields, f: FittingInput & { id?: string; version?: number }, doubts?: string[]): Hand {
  const { id, version, ...input } = f;
  const chosen = structuredClone(input) as FittingInput & Record<(typeof SHOWN)[number], unknown>;
  for (const key of SHOWN) delete chosen[key];
  const values: Values = {};
  for (const field of all(fields)) {
    const n = field.get(chosen);
    values[field.key] = n === undefined ? "" : written(field, n);
  }
  return { id, version, chosen, values, doubts };
}

/** What is sent; a text that is no number stops it with a sentence. */
export function inputOf(fields: Fields, hand: Hand): FittingInput {
  const out = structuredClone(hand.chosen);
  for (const field of all(fields)) {
    const text = hand.values[field.key] ?? "";
    const n = readOne(field, text);
    if (n === undefined && !(field.optional && text.trim() === ""))
      throw new NotANumber(`${field.label}: write a number in ${field.unit || "figures"}.`);
    field.set(out, n);
  }
  out.held.count = Math.round(out.held.count ?? 0);
  return out;
}

/** The input while it is typed, as far as its numbers can be read. */
export function attempt(fields: Fields, hand: Hand): FittingInput | undefined {
  try {
    return inputOf(fields, hand);
  } catch {
    return undefined;
  }
}

/** The hand with its foot elsewhere: metres, of those that are given. */
export function movedTo(fields: Fields, hand: Hand, to: { x?: number; y?: number; z?: number }): Hand {
  const values = { ...hand.values };
  for (const f of fields.where) {
    const n = to[f.key as "x" | "y" | "z"];
    if (n !== undefined) values[f.key] = written(f, Math.round(n * 1000) / 1000);
  }
  return { ...hand, values };
}

/** The same on the other side. */
export function mirrored(fields: Fields, hand: Hand): Hand {
  const input = inputOf(fields, hand);
  input.lies.at_m[1] = -input.lies.at_m[1];
  input.lies.turn_deg = -(input.lies.turn_deg ?? 0);
  input.name = otherSide(input.name);
  return handOf(fields, input);
}

function otherSide(name: string): string {
  if (/\bport\b/i.test(name)) return name.replace(/\bport\b/i, "starboard");
  if (/\bstarboard\b/i.test(name)) return name.replace(/\bstarboard\b/i, "port");
  return `${name}, other side`.slice(0, 80);
}

/** Holes as they are typed: x and y of each, millimetres, "40, 20; -40, 20". */
export function holesText(holes: FittingInput["held"]["pattern_mm"]): string {
  return (holes ?? []).map(([x, y]) => `${x}, ${y}`).join("; ");
}

/** The holes of such a text; undefined where it is not one. */
export function holesOf(text: string): [number, number][] | undefined {
  const list = text
    .split(";")
    .map((t) => t.trim())
    .filter(Boolean)
    .map((t) => t.split(/[\s,]+/).map(Number));
  return list.every((p) => p.length === 2 && p.every(Number.isFinite)) ? (list as [number, number][]) : undefined;
}
