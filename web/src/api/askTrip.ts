import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api } from "./client";

/** What is asked of trips; see ask. */
export const askTrip = {
  trips: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "trips", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips", { params: { path: { crew } }, signal }),
    }),
  fuel: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "fuel", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/fuel", { params: { path: { crew, trip } }, signal }),
    }),
  /** What another plan asks for; asked is the plan as text, so that it is a key too. */
  fuelTried: (crew: string, trip: string, asked: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "fuel-try", trip, asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/trips/{trip}/fuel/try", {
          params: { path: { crew, trip } },
          body: { plan: JSON.parse(asked ?? "") },
          signal,
        }),
      enabled: asked !== undefined,
      placeholderData: keepPreviousData,
    }),
  promised: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "promised", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/gear", { params: { path: { crew, trip } }, signal }),
    }),
};
