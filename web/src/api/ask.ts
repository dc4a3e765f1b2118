import { infiniteQueryOptions, keepPreviousData, type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, type Bench, type BoatState, type MoveInput } from "./client";
import type { paths } from "./schema.gen";

/** Which part of the gear list is asked for. */
export type GearFilter = Omit<
  NonNullable<paths["/api/crews/{crew}/gear"]["get"]["parameters"]["query"]>,
  "limit" | "after"
>;

/** What a kit is held against: a trip, or a party that is told. */
export type Party = { trip?: string; boat?: string; persons?: number; rods?: number; days?: number };

const FOREVER = Number.POSITIVE_INFINITY;

/**
 * Every question to the server, each with its key, its function and its type:
 * useQuery(ask.bench(crew, boat)). What a change of gear may have changed hangs
 * under "gear", since a move shows in many places.
 */
export const ask = {
  session: () =>
    queryOptions({
      queryKey: ["session"],
      queryFn: ({ signal }) => api.get("/api/session", { signal }),
      staleTime: 60_000,
    }),
  link: (token: string) =>
    queryOptions({
      queryKey: ["link", token],
      queryFn: ({ signal }) => api.get("/api/link", { params: { header: { "X-Link-Token": token } }, signal }),
      retry: false,
    }),
  members: (crew: string) =>
    queryOptions({
      queryKey: ["members", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/members", { params: { path: { crew } }, signal }),
    }),
  times: (crew: string) =>
    queryOptions({
      queryKey: ["times", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/times", { params: { path: { crew } }, signal }),
    }),

  /** The bench of a boat, kept fresh while others move things too; none is asked for without a boat. */
  bench: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["bench", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/bench", { params: { path: { crew, boat } }, signal }),
      enabled: boat !== "",
      refetchInterval: 20_000,
    }),
  /** What would become of her: a dry run in the server. A newer question ends the older. */
  trial: (crew: string, bench: Bench, question: MoveInput | undefined) =>
    queryOptions({
      queryKey: ["trial", bench.id, question, bench.state.last?.at],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/boats/{boat}/dry-run", {
          params: { path: { crew, boat: bench.id } },
          body: question as MoveInput,
          signal,
        }),
      enabled: question !== undefined,
      staleTime: 10_000,
      gcTime: 30_000,
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
  planSchools: (crew: string) =>
    queryOptions({
      queryKey: ["plan-schools"],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/plan-schools", { params: { path: { crew } }, signal }),
      staleTime: FOREVER,
    }),

  gearList: (crew: string, filter: GearFilter, limit = 50) =>
    infiniteQueryOptions({
      queryKey: ["gear", "list", crew, filter, limit],
      queryFn: ({ signal, pageParam }) =>
        api.get("/api/crews/{crew}/gear", {
          params: { path: { crew }, query: { ...filter, limit, ...(pageParam ? { after: pageParam } : {}) } },
          signal,
        }),
      initialPageParam: "",
      getNextPageParam: (last) => last.next,
      placeholderData: keepPreviousData,
    }),
  gearSummary: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "summary", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/gear-summary", { params: { path: { crew } }, signal }),
    }),
  gear: (crew: string, gear = "") =>
    queryOptions({
      queryKey: ["gear", "one", gear],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/gear/{gear}", { params: { path: { crew, gear } }, signal }),
      enabled: gear !== "",
    }),
  where: (crew: string, gear: string) =>
    queryOptions({
      queryKey: ["gear", "where", gear],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/gear/{gear}/where", { params: { path: { crew, gear } }, signal }),
    }),
  found: (crew: string, q: string) =>
    queryOptions({
      queryKey: ["gear", "find", crew, q],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/find", { params: { path: { crew }, query: { q } }, signal }),
      placeholderData: keepPreviousData,
    }),
  /** What lines of text are read as; nothing is added. */
  lines: (crew: string, text: string) =>
    queryOptions({
      queryKey: ["lines", crew, text],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/gear-lines", {
          params: { path: { crew } },
          body: { text, add: false },
          signal,
        }),
      enabled: text.trim() !== "",
      staleTime: 0,
    }),
  templates: (crew: string) =>
    queryOptions({
      queryKey: ["templates"],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/gear-templates", { params: { path: { crew } }, signal }),
      staleTime: FOREVER,
    }),
  shed: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "shed", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/shed", { params: { path: { crew } }, signal }),
    }),
  kits: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "kits", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/kits", { params: { path: { crew } }, signal }),
    }),
  kit: (crew: string, kit: string, party: Party) =>
    queryOptions({
      queryKey: ["gear", "kit", kit, party],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/kits/{kit}", { params: { path: { crew, kit }, query: party }, signal }),
    }),
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
  due: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "due", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/due", { params: { path: { crew } }, signal }),
    }),
  unweighed: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "weighing", boat],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/weighing", { params: { path: { crew, boat } }, signal }),
      enabled: boat !== "",
    }),
  /** What the scale shows, several times a second. */
  scale: (crew: string, tare: number) =>
    queryOptions({
      queryKey: ["scale", crew, tare],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/scale", { params: { path: { crew }, query: { tare_kg: tare } }, signal }),
      refetchInterval: 350,
      staleTime: 0,
      placeholderData: keepPreviousData,
    }),
  labelSheets: (crew: string) =>
    queryOptions({
      queryKey: ["sheets"],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/label-sheets", { params: { path: { crew } }, signal }),
      staleTime: FOREVER,
    }),
  label: (crew: string, code: string) =>
    queryOptions({
      queryKey: ["label", code],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/labels/{code}", { params: { path: { crew, code } }, signal }),
    }),
};

/** Asks again for whatever a change of gear may have changed. */
export function freshGear(queries: QueryClient) {
  queries.invalidateQueries({ queryKey: ["gear"] });
  queries.invalidateQueries({ queryKey: ["bench"] });
}

/** Shows a boat's state as a move left it. */
export function showState(queries: QueryClient, crew: string, boat: string, state: BoatState) {
  queries.setQueryData(ask.bench(crew, boat).queryKey, (bench) => (bench ? { ...bench, state } : bench));
}
