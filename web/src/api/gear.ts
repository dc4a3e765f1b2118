import { keepPreviousData, type QueryClient, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { answered, api, type Schemas, write } from "./client";

export type GearRow = Schemas["GearRow"];
export type GearDetail = Schemas["GearDetail"];
export type Hit = Schemas["Hit"];
export type Shed = Schemas["ShedView"];
export type Trip = Schemas["TripView"];
export type Kit = Schemas["KitView"];
export type MoveInput = Schemas["MoveInput"];
export type Where = Schemas["Whereabouts"];

/** Everything that is known of gear hangs under one key, since a move shows in many places. */
const KEY = "gear";

/** Asks again for whatever a change of gear may have changed. */
export function freshGear(queries: QueryClient) {
  queries.invalidateQueries({ queryKey: [KEY] });
  queries.invalidateQueries({ queryKey: ["bench"] });
}

export type GearFilter = {
  q?: string;
  kind?: "quay" | "boat" | "shed" | "person" | "lent";
  boat?: string;
  place?: string;
  shed?: string;
  inside?: string;
  owner?: string;
  tag?: string;
  only?: "unweighed" | "containers" | "worn" | "expired" | "restock";
  sort?: "name" | "recent";
};

export function useGearList(crew: string, filter: GearFilter, limit = 50) {
  return useInfiniteQuery({
    queryKey: [KEY, "list", crew, filter, limit],
    queryFn: ({ signal, pageParam }) =>
      answered(
        api.GET("/api/crews/{crew}/gear", {
          params: { path: { crew }, query: { ...filter, limit, ...(pageParam ? { after: pageParam } : {}) } },
          signal,
        }),
      ) as Promise<Schemas["GearPage"]>,
    initialPageParam: "",
    getNextPageParam: (last) => last.next,
    placeholderData: keepPreviousData,
  });
}

export const useSummary = (crew: string) =>
  useQuery({
    queryKey: [KEY, "summary", crew],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/gear-summary", { params: { path: { crew } }, signal })) as Promise<
        Schemas["GearSummary"]
      >,
  });

export const useGear = (crew: string, gear: string | undefined) =>
  useQuery({
    queryKey: [KEY, "one", gear],
    enabled: gear !== undefined,
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/crews/{crew}/gear/{gear}", { params: { path: { crew, gear: gear ?? "" } }, signal }),
      ) as Promise<GearDetail>,
  });

export const useWhere = (crew: string, gear: string | undefined) =>
  useQuery({
    queryKey: [KEY, "where", gear],
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/crews/{crew}/gear/{gear}/where", { params: { path: { crew, gear: gear ?? "" } }, signal }),
      ) as Promise<Where>,
    enabled: gear !== undefined,
  });

export const useFind = (crew: string, q: string) =>
  useQuery({
    queryKey: [KEY, "find", crew, q],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/find", { params: { path: { crew }, query: { q } }, signal })) as Promise<
        Hit[]
      >,
    placeholderData: keepPreviousData,
  });

export const useShed = (crew: string) =>
  useQuery({
    queryKey: [KEY, "shed", crew],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/shed", { params: { path: { crew } }, signal })) as Promise<Shed[]>,
  });

export const useTrips = (crew: string) =>
  useQuery({
    queryKey: [KEY, "trips", crew],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/trips", { params: { path: { crew } }, signal })) as Promise<Trip[]>,
  });

export const useKits = (crew: string) =>
  useQuery({
    queryKey: [KEY, "kits", crew],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/kits", { params: { path: { crew } }, signal })) as Promise<Kit[]>,
  });

export const useMembers = (crew: string) =>
  useQuery({
    queryKey: ["members", crew],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/crews/{crew}/members", { params: { path: { crew } }, signal })) as Promise<
        Schemas["MemberView"][]
      >,
  });

/** Moves a piece; the answer says what would take it back. */
export const moveGear = (crew: string, gear: string, body: MoveInput) =>
  write((key) =>
    api.POST("/api/crews/{crew}/gear/{gear}/moves", {
      params: { path: { crew, gear }, header: { "Idempotency-Key": key } },
      body,
    }),
  ) as Promise<Schemas["Moved"]>;

/** Adds a line to a piece's history; seen: it is where it should be. */
export const noteGear = (crew: string, gear: string, kind: "seen" | "note", text = "") =>
  write((key) =>
    api.POST("/api/crews/{crew}/gear/{gear}/notes", {
      params: { path: { crew, gear }, header: { "Idempotency-Key": key } },
      body: { kind, text },
    }),
  );
