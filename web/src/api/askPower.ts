import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Schemas } from "./client";

const ofBoat = (crew: string, boat: string) => ({ params: { path: { crew, boat } } });

/** What is asked of a boat's electrics; see ask. */
export const askPower = {
  boat: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "power", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}/power", { ...ofBoat(crew, boat), signal }),
    }),
  /** Other electrics worked out, nothing kept; asked is their JSON. */
  tried: (crew: string, boat: string, asked: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "power-try", boat, asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/boats/{boat}/power/try", {
          ...ofBoat(crew, boat),
          body: JSON.parse(asked ?? "") as Schemas["NetInput"],
          signal,
        }),
      enabled: asked !== undefined,
      placeholderData: keepPreviousData,
      retry: false,
    }),
};

/** What is written of them; refused where they were changed meanwhile. */
export const writePower = {
  save: (crew: string, boat: string, net: Schemas["NetInput"], version: number) =>
    api.put("/api/crews/{crew}/boats/{boat}/power", { ...ofBoat(crew, boat), body: { ...net, version } }),
};
