import { useQuery } from "@tanstack/react-query";
import { answered, api, type Bench } from "./client";

export const benchKey = (boat: string) => ["bench", boat];

/** The bench of a boat, kept fresh while others move things too; none is asked for without a boat. */
export function useBench(crew: string, boat: string) {
  return useQuery({
    queryKey: benchKey(boat),
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/crews/{crew}/boats/{boat}/bench", { params: { path: { crew, boat } }, signal }),
      ) as Promise<Bench>,
    enabled: boat !== "",
    refetchInterval: 20_000,
  });
}
