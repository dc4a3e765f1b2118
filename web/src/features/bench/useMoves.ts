import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { showState } from "../../api/ask";
import { api, type BoatState, type MoveInput, Refusal, sayError } from "../../api/client";

export type Note = { text: string; details: string[]; loud: boolean };

/** Moving, undoing and redoing, with what to say of each. */
export function useMoves(crew: string, boat: string) {
  const queries = useQueryClient();
  const [note, setNote] = useState<Note>();
  const path = { crew, boat };
  const settle = (state: BoatState) => showState(queries, crew, boat, state);
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
      api.post("/api/crews/{crew}/boats/{boat}/moves", {
        params: { path },
        body,
      }),
    ...options,
  });
  const turn = useMutation({
    mutationFn: (way: "undo" | "redo") =>
      api.post(way === "undo" ? "/api/crews/{crew}/boats/{boat}/undo" : "/api/crews/{crew}/boats/{boat}/redo", {
        params: { path },
      }),
    ...options,
  });
  const anew = useMutation({
    mutationFn: (place: string) =>
      api.post("/api/crews/{crew}/boats/{boat}/places/{place}/lay-anew", {
        params: { path: { ...path, place } },
      }),
    ...options,
  });
  return { move, turn, anew, note, setNote };
}
