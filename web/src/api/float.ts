import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answered, api, type Schemas } from "./client";

export type FloatReport = Schemas["FloatReport"];

/** How a boat floats as she is laden now, in a wind and with water in the bilge. */
export function useFloat(crew: string, boat: string, wind = 0, bilge = 0) {
  return useQuery({
    queryKey: ["float", boat, wind, bilge],
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/crews/{crew}/boats/{boat}/float", {
          params: { path: { crew, boat }, query: { wind_m_s: wind, bilge_l: bilge } },
          signal,
        }),
      ) as Promise<FloatReport>,
    placeholderData: keepPreviousData,
  });
}
