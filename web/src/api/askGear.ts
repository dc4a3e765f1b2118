import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api } from "./client";
import type { paths } from "./schema.gen";

/** Which part of the gear list is asked for. */
export type GearFilter = Omit<
  NonNullable<paths["/api/crews/{crew}/gear"]["get"]["parameters"]["query"]>,
  "limit" | "after"
>;

/** What a kit is held against: a trip, or a party that is told. */
export type Party = { trip?: string; boat?: string; persons?: number; rods?: number; days?: number };

const FOREVER = Number.POSITIVE_INFINITY;

/** What is asked of gear, ashore and aboard; see ask. */
export const askGear = {
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
