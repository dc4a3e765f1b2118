import { api, type MoveInput } from "./client";

/** Moves a piece from wherever to wherever; the answer says what would take it back. */
export const moveGear = (crew: string, gear: string, body: MoveInput) =>
  api.post("/api/crews/{crew}/gear/{gear}/moves", { params: { path: { crew, gear } }, body });

/** Adds a line to a piece's history; seen: it is where it should be. */
export const noteGear = (crew: string, gear: string, kind: "seen" | "note", text = "") =>
  api.post("/api/crews/{crew}/gear/{gear}/notes", { params: { path: { crew, gear } }, body: { kind, text } });
