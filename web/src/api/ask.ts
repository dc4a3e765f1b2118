import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { api, type Bench, type BoatState, type MoveInput } from "./client";

/**
 * Questions to the server, each with its key, its function and its type together:
 * useQuery(ask.bench(crew, boat)). Those that the first page asks stand here, those
 * of a room in askBoat, askGear and askTrip, so that they come with their pages.
 * What a change of gear may have changed hangs under "gear", since a move shows in
 * many places.
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
  /** What was done last in one stroke and can be taken back. */
  undoable: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "undoable", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/undoable", { params: { path: { crew } }, signal }),
      staleTime: Number.POSITIVE_INFINITY,
      refetchOnWindowFocus: false,
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
};

/** Asks again for whatever a change of gear may have changed. */
export function freshGear(queries: QueryClient) {
  queries.invalidateQueries({ queryKey: ["gear"] });
  queries.invalidateQueries({ queryKey: ["bench"] });
}

/** Asks again for what can be taken back. */
export function freshUndo(queries: QueryClient) {
  queries.invalidateQueries({ queryKey: ["gear", "undoable"] });
}

/** Shows a boat's state as a move left it. */
export function showState(queries: QueryClient, crew: string, boat: string, state: BoatState) {
  queries.setQueryData(ask.bench(crew, boat).queryKey, (bench) => (bench ? { ...bench, state } : bench));
}
