import { useQueryClient } from "@tanstack/react-query";
import { api, type Membership, type Schemas } from "../../api/client";

export type BoatView = Schemas["BoatView"];
export type BoatInput = Schemas["BoatInput"];
export type Stage = "hull" | "plate" | "engine" | "tanks" | "posts" | "places";

export const STAGES: { key: Stage; title: string }[] = [
  { key: "hull", title: "Hull" },
  { key: "plate", title: "Plate and limits" },
  { key: "engine", title: "Engine and weights" },
  { key: "tanks", title: "Tanks" },
  { key: "posts", title: "Posts and seats" },
  { key: "places", title: "Places" },
];

/** Saves a boat whole; a stage that was gone through is noted. Gives her id. */
export function useSaveBoat(me: Membership, boat: BoatView | undefined) {
  const queries = useQueryClient();
  const crew = me.crew_id;
  return async (input: BoatInput, done: Stage): Promise<string> => {
    const setup = [...new Set([...(input.setup ?? []), done])];
    const { id: _, version: __, ...rest } = input as BoatView;
    const body = { ...rest, setup };
    const saved = await (boat
      ? api.put("/api/crews/{crew}/boats/{boat}", {
          params: { path: { crew, boat: boat.id } },
          body: { ...body, version: boat.version },
        })
      : api.post("/api/crews/{crew}/boats", { params: { path: { crew } }, body }));
    await queries.invalidateQueries();
    return saved.id;
  };
}

type Measures = Record<string, number>;

/** A boat to begin from, with a usual hull and the usual mass of her size; every number of it is to be measured. */
export function freshBoat(form: Schemas["Form"], choices: Schemas["HullChoices"], measured?: Measures): BoatInput {
  const usual = Object.fromEntries(form.measures.map((m) => [m.key, m.usual]));
  const measures = { ...usual, ...measured };
  const length = measures.length_m ?? 4;
  const depth = measures.depth_aft_m ?? 0.6;
  const perM3 = choices.dry.find((d) => d.form === form.name)?.kg_per_m3 ?? 50;
  const kg = Math.round((perM3 * length * (measures.beam_m ?? 1.6) * (measures.depth_amidships_m ?? depth)) / 5) * 5;
  return {
    name: "",
    water_density_kg_m3: 1025,
    hull: { form: form.name, measures },
    outfit: {
      masses: [{ name: "hull", kind: "hull", kg, at_m: [length * 0.43, 0, depth * 0.55], known: "guess" }],
      tanks: [],
      material: form.name === "flat" ? "aluminium" : "glass",
      propulsion: "outboard",
      kind: form.name === "craft" ? "watercraft" : "monohull",
    },
    plate: { max_kg: 0, max_persons: 0, includes: ["persons", "gear", "fuel"], source: "" },
    limits: {
      freeboard_m: { value: 0.2, source: "practice" },
      heel_deg: { value: 2, source: "practice" },
      trim_low_deg: { value: 0, source: "practice" },
      trim_high_deg: { value: 1.5, source: "practice" },
    },
    setup: [],
  };
}
