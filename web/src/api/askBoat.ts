import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Bench } from "./client";

/** Whether the rest goes off her, or its own things do, and to which place ashore. */
export type WayQuery = { rest?: boolean; off?: boolean; shed?: string };

const FOREVER = Number.POSITIVE_INFINITY;

/** What is asked of a boat beside her bench; see ask. */
export const askBoat = {
  diary: (crew: string, boat: string) =>
    infiniteQueryOptions({
      queryKey: ["gear", "diary", boat],
      initialPageParam: 0,
      queryFn: ({ signal, pageParam }) =>
        api.get("/api/crews/{crew}/boats/{boat}/diary", {
          params: { path: { crew, boat }, query: { before: pageParam } },
          signal,
        }),
      getNextPageParam: (last) => last.next || undefined,
    }),
  /** The places that take a piece, as everything lies now. */
  suits: (crew: string, boat: string, gear: string, version: string) =>
    queryOptions({
      queryKey: ["bench", boat, "suits", gear, version],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/suits/{gear}", { params: { path: { crew, boat, gear } }, signal }),
    }),
  boat: (crew: string, boat = "") =>
    queryOptions({
      queryKey: ["boat", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}", { params: { path: { crew, boat } }, signal }),
      enabled: boat !== "",
    }),
  hullForms: (crew: string) =>
    queryOptions({
      queryKey: ["hull-forms"],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/hull-forms", { params: { path: { crew } }, signal }),
      staleTime: FOREVER,
    }),
  /** The hull that measures make; asked is the body as text, so that it is a key too. */
  hullPreview: (crew: string, asked: string) =>
    queryOptions({
      queryKey: ["preview", asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/hull-preview", { params: { path: { crew } }, body: JSON.parse(asked), signal }),
      placeholderData: keepPreviousData,
      staleTime: 60_000,
    }),
  photos: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["photos", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/photos", { params: { path: { crew, boat } }, signal }),
    }),
  /** How a boat floats as she is laden now, in a wind and with water in the bilge. */
  float: (crew: string, boat: string, wind = 0, bilge = 0) =>
    queryOptions({
      queryKey: ["float", boat, wind, bilge],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/float", {
          params: { path: { crew, boat }, query: { wind_m_s: wind, bilge_l: bilge } },
          signal,
        }),
      placeholderData: keepPreviousData,
    }),
  checks: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["checks", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/checks", { params: { path: { crew, boat } }, signal }),
    }),
  road: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["road", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/road", { params: { path: { crew, boat } }, signal }),
    }),
  rods: (
    crew: string,
    boat: string,
    query: { bridge_m: number; road_m: number; keel_m: number },
    since: string | undefined,
  ) =>
    queryOptions({
      queryKey: ["rods", boat, query, since],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/rods", { params: { path: { crew, boat }, query }, signal }),
      placeholderData: keepPreviousData,
    }),
  reach: (crew: string, bench: Bench, post: string) =>
    queryOptions({
      queryKey: ["reach", bench.id, post, bench.state.people],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/reach", {
          params: { path: { crew, boat: bench.id }, query: { post } },
          signal,
        }),
      enabled: post !== "",
    }),
  /** What is fastened to a boat, and what is in whose way. */
  rigging: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "rigging", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/rigging", { params: { path: { crew, boat } }, signal }),
    }),
  /** The largest boxes inside her that nothing takes. */
  spaces: (crew: string, boat: string, wanted: boolean) =>
    queryOptions({
      queryKey: ["gear", "spaces", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/spaces", { params: { path: { crew, boat } }, signal }),
      enabled: wanted,
    }),
  /** The dry run of a mount; asked is the fitting as text, so that it is a key too. */
  /** Hand says which fitting is in hand: what was said of another is not shown meanwhile. */
  fittingTried: (crew: string, boat: string, hand: string, id: string | undefined, asked: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "fitting-try", boat, hand, id, asked] as const,
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/boats/{boat}/rigging/try", {
          params: { path: { crew, boat } },
          body: { id, fitting: JSON.parse(asked ?? "") },
          signal,
        }),
      enabled: asked !== undefined,
      placeholderData: (was, query) => (query?.queryKey[3] === hand ? was : undefined),
    }),
  fittingPhotos: (crew: string, boat: string, fitting: string) =>
    queryOptions({
      queryKey: ["photos", "fitting", fitting],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/photos", {
          params: { path: { crew, boat, fitting } },
          signal,
        }),
    }),
  arrangements: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "arrangements", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/arrangements", { params: { path: { crew, boat } }, signal }),
    }),
  /** What coming back to an arrangement takes; since is when she was last changed. */
  wayBack: (crew: string, boat: string, arrangement: string, query: WayQuery, since: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "way", arrangement, query, since],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/arrangements/{arrangement}/way", {
          params: { path: { crew, boat, arrangement }, query },
          signal,
        }),
      placeholderData: keepPreviousData,
    }),
  planSchools: (crew: string) =>
    queryOptions({
      queryKey: ["plan-schools"],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/plan-schools", { params: { path: { crew } }, signal }),
      staleTime: FOREVER,
    }),
};
