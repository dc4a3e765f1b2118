import createClient from "openapi-fetch";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Bench = Schemas["Bench"];
export type BoatState = Schemas["State"];
export type Figures = Schemas["Figures"];
export type Attitude = Schemas["Attitude"];
export type Gear = Schemas["GearView"];
export type Place = Schemas["PlaceView"];
export type Post = Schemas["PostView"];
export type Member = Schemas["MemberView"];
export type Membership = Schemas["Membership"];
export type Session = Schemas["SessionView"];
export type MoveInput = Schemas["MoveInput"];
export type Trial = Schemas["Trial"];

export const api = createClient<paths>({ baseUrl: "/" });

/** A refusal by the server, in sentences for the person. */
export class Refusal extends Error {
  readonly status: number;
  readonly details: string[];
  readonly state: unknown;

  constructor(status: number, problem: Partial<Schemas["Problem"]>) {
    super(problem.detail ?? "The server did not say what is wrong.");
    this.status = status;
    this.details = (problem.errors ?? []).map((e) => {
      if (!e.location) return e.message ?? "";
      const value = e.value === undefined || e.value === null ? "" : ` is ${e.value}`;
      return `${e.location.replace(/^body\./, "")}${value}: ${e.message}`;
    });
    this.state = problem.state;
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Gives the data of an answer or throws its refusal. */
export async function answered<T>(request: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await request;
  if (!response.ok) throw new Refusal(response.status, (error ?? {}) as Partial<Schemas["Problem"]>);
  return data as T;
}

/**
 * Sends a write with a key of its own. Where the answer is lost it is sent
 * again with the same key, so that it can't be carried out twice.
 */
export async function write<T>(send: (key: string) => Promise<Answer<T>>): Promise<T> {
  const key = newKey();
  for (let attempt = 0; ; attempt++) {
    try {
      return await answered(send(key));
    } catch (error) {
      const lost = !(error instanceof Refusal) || error.status === 503;
      if (!lost || attempt >= 2) throw error;
      await new Promise((resolve) => setTimeout(resolve, 400 * 2 ** attempt));
    }
  }
}

/** A random UUID; crypto.randomUUID is missing where a phone reaches the program without HTTPS. */
function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

/** What to say of an error. */
export function sayError(error: unknown): string {
  if (error instanceof Refusal) return error.message;
  return "The server can't be reached. Nothing was changed; try again when it is back.";
}
