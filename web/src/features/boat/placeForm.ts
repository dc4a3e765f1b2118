import type { Place, Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { type NumberField, read, readOne, typed, type Values } from "../../ui/Form";
import { sideField } from "../../ui/fields";

export type PlaceInput = Schemas["PlaceInput"];

export type PlaceDraft = {
  name: string;
  dryness: Place["dryness"];
  lid: NonNullable<Place["lid"]>;
  hinge: string; // empty where nobody said
  latched: boolean;
  locks: boolean;
  drained: boolean;
  insulated: boolean;
  keptFor: string;
  keptTag: string;
  form: NonNullable<Place["form"]>;
  values: Values;
};

export type Box = { x: number; y: number; length: number; breadth: number };

export function placeFields(units: Units): {
  main: NumberField[];
  plan: NumberField[];
  more: NumberField[];
  rods: NumberField[];
} {
  const side = sideField(units);
  return {
    main: [side("z", "Floor", "over the keel's level"), side("height", "Height inside")],
    plan: [
      side("x", "Aft edge", "from the transom"),
      side("y", "Starboard edge", "to port +, starboard −"),
      side("length", "Length inside"),
      side("breadth", "Breadth inside"),
    ],
    more: [
      side("opening_x", "Opening, along", "0 where the whole top opens"),
      side("opening_y", "Opening, across"),
      { key: "max_kg", label: "Carries at most", unit: units.massUnit, si: units.massSI, hint: "0 for no limit" },
    ],
    rods: [
      { key: "slots", label: "How many", unit: "", si: 1, hint: "tubes, or holders" },
      { key: "diameter", label: "Tube, inside", unit: units.sideUnit, si: units.sideSI, hint: "0 for holders" },
    ],
  };
}

export function allFields(units: Units): NumberField[] {
  const f = placeFields(units);
  return [...f.main, ...f.plan, ...f.more, ...f.rods];
}

export function draftOf(units: Units, q: PlaceInput): PlaceDraft {
  return {
    name: q.name,
    dryness: q.dryness,
    lid: q.lid ?? "none",
    hinge: q.hinge ?? "",
    latched: q.latched ?? false,
    locks: q.locks ?? false,
    drained: q.drained ?? false,
    insulated: q.insulated ?? false,
    keptFor: q.kept_for_id ?? "",
    keptTag: q.kept_for_tag ?? "",
    form: q.form ?? "box",
    values: typed(allFields(units), {
      x: q.corner_m[0],
      y: q.corner_m[1],
      z: q.corner_m[2],
      length: q.size_m[0],
      breadth: q.size_m[1],
      height: q.size_m[2],
      opening_x: q.opening_m[0],
      opening_y: q.opening_m[1],
      max_kg: q.max_kg,
      slots: q.slots ?? 0,
      diameter: q.slot_diameter_m ?? 0,
    }),
  };
}

/** The place's rectangle in plan, while its numbers make one. */
export function boxOf(units: Units, d: PlaceDraft): Box | undefined {
  const n = (key: string) => readOne({ unit: units.sideUnit, si: units.sideSI }, d.values[key] ?? "");
  const [x, y, length, breadth] = [n("x"), n("y"), n("length"), n("breadth")];
  if (x === undefined || y === undefined || !length || !breadth) return undefined;
  return { x, y, length, breadth };
}

export function withBox(units: Units, d: PlaceDraft, box: Box): PlaceDraft {
  return { ...d, values: { ...d.values, ...typed(placeFields(units).plan, box) } };
}

/** What is sent; the parent is the smallest place that the box lies in. */
export function inputOf(units: Units, d: PlaceDraft, places: Place[], self?: string): PlaceInput {
  const n = read(allFields(units), d.values);
  const at = (key: string) => n[key] ?? 0;
  const corner: PlaceInput["corner_m"] = [at("x"), at("y"), at("z")];
  const size: PlaceInput["size_m"] = [at("length"), at("breadth"), at("height")];
  return {
    name: d.name,
    dryness: d.dryness,
    lid: d.lid,
    ...(d.lid === "hinged" && d.hinge ? { hinge: d.hinge as PlaceInput["hinge"] } : {}),
    latched: d.latched,
    locks: d.locks,
    drained: d.drained,
    insulated: d.insulated,
    ...(d.keptFor ? { kept_for_id: d.keptFor } : {}),
    kept_for_tag: d.keptTag.trim().toLowerCase(),
    form: d.form,
    slots: d.form === "tubes" || d.form === "upright" ? Math.round(at("slots")) : 0,
    slot_diameter_m: d.form === "tubes" ? at("diameter") : 0,
    corner_m: corner,
    size_m: size,
    opening_m: [at("opening_x"), at("opening_y")],
    max_kg: at("max_kg"),
    parent_id: parentOf(corner, size, places, self),
  };
}

function parentOf(corner: readonly number[], size: readonly number[], places: Place[], self?: string) {
  const inside = (q: Place) =>
    [0, 1, 2].every((k) => {
      const low = q.corner_m[k] ?? 0;
      const high = low + (q.size_m[k] ?? 0);
      return (corner[k] ?? 0) >= low - 1e-4 && (corner[k] ?? 0) + (size[k] ?? 0) <= high + 1e-4;
    });
  const volume = (q: Place) => q.size_m[0] * q.size_m[1] * q.size_m[2];
  const mine = (size[0] ?? 0) * (size[1] ?? 0) * (size[2] ?? 0);
  return places
    .filter((q) => q.id !== self && q.parent_id !== self && inside(q) && volume(q) > mine)
    .sort((a, b) => volume(a) - volume(b))[0]?.id;
}
