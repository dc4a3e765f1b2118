import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { benchKey } from "../../api/bench";
import {
  answered,
  api,
  type Bench,
  type BoatState,
  type MoveInput,
  Refusal,
  sayError,
  type Trial,
  write,
} from "../../api/client";

export type Note = { text: string; details: string[]; loud: boolean };

/** Moving, undoing and redoing, with what to say of each. */
export function useMoves(crew: string, boat: string) {
  const queries = useQueryClient();
  const [note, setNote] = useState<Note>();
  const path = { crew, boat };
  const settle = (state: BoatState) =>
    queries.setQueryData<Bench>(benchKey(boat), (bench) => (bench ? { ...bench, state } : bench));
  const refuse = (error: unknown) => {
    if (error instanceof Refusal && error.status === 409 && error.state) settle(error.state as BoatState);
    setNote({ text: sayError(error), details: error instanceof Refusal ? error.details : [], loud: true });
  };
  const options = {
    onMutate: () => setNote(undefined),
    onSuccess: settle,
    onError: refuse,
  };
  const move = useMutation({
    mutationFn: (body: MoveInput) =>
      write((key) =>
        api.POST("/api/crews/{crew}/boats/{boat}/moves", {
          params: { path, header: { "Idempotency-Key": key } },
          body,
        }),
      ) as Promise<BoatState>,
    ...options,
  });
  const turn = useMutation({
    mutationFn: (way: "undo" | "redo") =>
      write((key) =>
        api.POST(way === "undo" ? "/api/crews/{crew}/boats/{boat}/undo" : "/api/crews/{crew}/boats/{boat}/redo", {
          params: { path, header: { "Idempotency-Key": key } },
        }),
      ) as Promise<BoatState>,
    ...options,
  });
  const anew = useMutation({
    mutationFn: (place: string) =>
      write((key) =>
        api.POST("/api/crews/{crew}/boats/{boat}/places/{place}/lay-anew", {
          params: { path: { ...path, place }, header: { "Idempotency-Key": key } },
        }),
      ) as Promise<BoatState>,
    ...options,
  });
  return { move, turn, anew, note, setNote };
}

/** What would become of her: a dry run in the server. A newer question ends the older. */
export function useTrial(crew: string, boat: string, question: MoveInput | undefined, bench: Bench) {
  return useQuery({
    queryKey: ["trial", boat, question, bench.state.last?.at],
    queryFn: ({ signal }) =>
      answered(
        api.POST("/api/crews/{crew}/boats/{boat}/dry-run", {
          params: { path: { crew, boat } },
          body: question as MoveInput,
          signal,
        }),
      ) as Promise<Trial>,
    enabled: question !== undefined,
    staleTime: 10_000,
    gcTime: 30_000,
  });
}
