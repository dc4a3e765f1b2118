import createClient, { type MaybeOptionalInit, type Middleware } from "openapi-fetch";
import type { PathsWithMethod, RequiredKeysOf } from "openapi-typescript-helpers";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Bench = Schemas["Bench"];
export type BoatState = Schemas["State"];
export type Figures = Schemas["Figures"];
export type Attitude = Schemas["Attitude"];
export type Gear = Schemas["GearView"];
export type GearRow = Schemas["GearRow"];
export type GearDetail = Schemas["GearDetail"];
export type Hit = Schemas["Hit"];
export type Kit = Schemas["KitView"];
export type Place = Schemas["PlaceView"];
export type Post = Schemas["PostView"];
export type Member = Schemas["MemberView"];
export type Membership = Schemas["Membership"];
export type MoveInput = Schemas["MoveInput"];
export type Session = Schemas["SessionView"];
export type Shed = Schemas["ShedView"];
export type Trial = Schemas["Trial"];
export type Trip = Schemas["TripView"];
export type FloatReport = Schemas["FloatReport"];

const KEY = "Idempotency-Key";

/** Gives every write a key of its own, by which the server knows one that is sent again. */
const idempotency: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET" && !request.headers.has(KEY)) request.headers.set(KEY, newKey());
    return request;
  },
};

/** How often a request whose answer was lost is sent again, and after how long. */
const AGAIN_MS = [400, 800];

/** How long a server that says when to come back is waited for at most, milliseconds. */
const COME_BACK_MS = 5000;

/**
 * Sends a request. Where the answer to a write is lost it is sent again with the
 * same key, so that it can't be carried out twice; reads are asked again by the
 * query that wants them.
 */
async function send(request: Request): Promise<Response> {
  for (const usual of request.method === "GET" ? [] : AGAIN_MS) {
    let wait = usual;
    try {
      const response = await fetch(request.clone());
      if (response.status !== 503) return response;
      wait = Math.max(usual, Math.min(1000 * Number(response.headers.get("Retry-After") ?? 0) || 0, COME_BACK_MS));
    } catch (error) {
      if (request.signal.aborted) throw error;
    }
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
  return fetch(request);
}

const client = createClient<paths>({ baseUrl: "/", fetch: send });
client.use(idempotency);

type Method = "get" | "post" | "put" | "delete";

/** What an operation answers with; nothing where it answers with no JSON. */
type Data<Operation> = Operation extends { responses: { 200: { content: { "application/json": infer D } } } }
  ? D
  : undefined;

/** Calls an operation; gives its data or throws its refusal. */
type Call<M extends Method> = <P extends PathsWithMethod<paths, M>, I extends MaybeOptionalInit<paths[P], M>>(
  url: P,
  ...init: RequiredKeysOf<I> extends never ? [init?: I] : [init: I]
) => Promise<Data<paths[P][M]>>;

// openapi-fetch loses the length of tuples on the way, so types are told here, once.
function caller<M extends Method>(send: unknown): Call<M> {
  return ((url: string, init: object) => answered((send as Send)(url, init))) as Call<M>;
}

/** The server's operations, with their types from its OpenAPI document. */
export const api = {
  get: caller<"get">(client.GET),
  post: caller<"post">(client.POST),
  put: caller<"put">(client.PUT),
  delete: caller<"delete">(client.DELETE),
};

/** A refusal by the server, in sentences for the person. */
export class Refusal extends Error {
  readonly status: number;
  readonly details: string[];
  readonly state: unknown;
  readonly anyway: boolean; // a move that a rule forbids, and that may still be noted

  constructor(status: number, problem: Partial<Schemas["Problem"]>) {
    super(problem.detail ?? "The server did not say what is wrong.");
    this.status = status;
    this.details = (problem.errors ?? []).map((e) => e.message ?? "");
    this.state = problem.state;
    this.anyway = problem.anyway ?? false;
  }
}

type Send = (url: string, init: object) => Promise<{ data?: unknown; error?: unknown; response: Response }>;

async function answered(request: ReturnType<Send>): Promise<unknown> {
  const { data, error, response } = await request;
  if (!response.ok) throw new Refusal(response.status, (error ?? {}) as Partial<Schemas["Problem"]>);
  return data;
}

/** A random UUID; crypto.randomUUID is missing where a phone reaches the program without HTTPS. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

/** What the server will never take, however often it is sent: anything else may go another time. */
const FOR_GOOD = [400, 403, 404, 405, 409, 410, 413, 415, 422];

/** Whether the server has refused something for good, and it need not be sent again. */
export function refusedForGood(error: unknown): error is Refusal {
  return error instanceof Refusal && FOR_GOOD.includes(error.status);
}

/** What to say of an error. */
export function sayError(error: unknown): string {
  if (error instanceof Refusal) return error.message;
  return "The server can't be reached. Nothing was changed; try again when it is back.";
}
