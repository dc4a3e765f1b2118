import { queryOptions } from "@tanstack/react-query";
import { api } from "./client";

/** What is asked of trips; see ask. */
export const askTrip = {
  trips: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "trips", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips", { params: { path: { crew } }, signal }),
    }),
  promised: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "promised", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/gear", { params: { path: { crew, trip } }, signal }),
    }),
};
