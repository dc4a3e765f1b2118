import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Schemas } from "./client";

/** What is asked of trips; see ask. */
export const askTrip = {
  trips: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "trips", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips", { params: { path: { crew } }, signal }),
    }),
  /** A trip with its stages and its verdict. */
  page: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "trip", trip],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips/{trip}", { params: { path: { crew, trip } }, signal }),
    }),
  day: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "day", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/day", { params: { path: { crew, trip } }, signal }),
    }),
  /** How another day would go; asked is the plan as text, so that it is a key too. */
  dayTried: (crew: string, trip: string, asked: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "day-try", trip, asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/trips/{trip}/day/try", {
          params: { path: { crew, trip } },
          body: { plan: JSON.parse(asked ?? "") },
          signal,
        }),
      enabled: asked !== undefined,
      placeholderData: keepPreviousData,
    }),
  /** What would help a day, each change tried through all of it. */
  remedies: (crew: string, trip: string, asked: string, wanted: boolean) =>
    queryOptions({
      queryKey: ["gear", "remedies", trip, asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/trips/{trip}/day/remedies", {
          params: { path: { crew, trip } },
          body: { plan: JSON.parse(asked) },
          signal,
        }),
      enabled: wanted,
      placeholderData: keepPreviousData,
    }),
  fuel: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "fuel", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/fuel", { params: { path: { crew, trip } }, signal }),
    }),
  /** What another plan asks for; asked is the plan as text, so that it is a key too. */
  fuelTried: (crew: string, trip: string, asked: string | undefined) =>
    queryOptions({
      queryKey: ["gear", "fuel-try", trip, asked],
      queryFn: ({ signal }) =>
        api.post("/api/crews/{crew}/trips/{trip}/fuel/try", {
          params: { path: { crew, trip } },
          body: { plan: JSON.parse(asked ?? "") },
          signal,
        }),
      enabled: asked !== undefined,
      placeholderData: keepPreviousData,
    }),
  /** What lies aboard and nobody asked for, and what it costs. */
  along: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "along", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/along", { params: { path: { crew, trip } }, signal }),
    }),
  /** What was caught, what counts of it and which goes back; others on board add to it too. */
  caught: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "catch", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/catch", { params: { path: { crew, trip } }, signal }),
      refetchInterval: 20_000,
    }),
  /** What is printed of a trip. */
  sheets: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "sheets", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/sheets", { params: { path: { crew, trip } }, signal }),
    }),
  /** What the holder of a guests' link is shown. */
  guest: (token: string) =>
    queryOptions({
      queryKey: ["guest", token],
      queryFn: ({ signal }) => api.get("/api/guest", { params: { header: { "X-Link-Token": token } }, signal }),
      retry: false,
    }),
  photos: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "trip-photos", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/photos", { params: { path: { crew, trip } }, signal }),
    }),
  promised: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "promised", trip],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/trips/{trip}/gear", { params: { path: { crew, trip } }, signal }),
    }),
};

const ofTrip = (crew: string, trip: string) => ({ params: { path: { crew, trip } } });

/** What is written of trips; each refuses what was changed meanwhile. */
export const writeTrip = {
  day: (crew: string, trip: string, plan: Schemas["DayPlan"], version: number) =>
    api.put("/api/crews/{crew}/trips/{trip}/day", { ...ofTrip(crew, trip), body: { plan, version } }),
  ashore: (crew: string, trip: string, gear: string[], version: number) =>
    api.put("/api/crews/{crew}/trips/{trip}/ashore", { ...ofTrip(crew, trip), body: { gear, version } }),
  fuel: (crew: string, trip: string, plan: Schemas["FuelPlan"], version: number) =>
    api.put("/api/crews/{crew}/trips/{trip}/fuel", { ...ofTrip(crew, trip), body: { plan, version } }),
  people: (crew: string, trip: string, people: Schemas["TripPerson"][], version: number) =>
    api.put("/api/crews/{crew}/trips/{trip}/people", { ...ofTrip(crew, trip), body: { people, version } }),
  settle: (crew: string, trip: string, stage: Schemas["StageView"]["stage"], settled: boolean) =>
    api.post("/api/crews/{crew}/trips/{trip}/settled", { ...ofTrip(crew, trip), body: { stage, settled } }),
  accept: (crew: string, trip: string, line: { key: string; said: string }, accepted: boolean) =>
    api.post("/api/crews/{crew}/trips/{trip}/accepted", { ...ofTrip(crew, trip), body: { ...line, accepted } }),
  takeKit: (crew: string, trip: string, kit: string) =>
    api.post("/api/crews/{crew}/trips/{trip}/kits/{kit}", { params: { path: { crew, trip, kit } } }),
  dropKit: (crew: string, trip: string, kit: string) =>
    api.delete("/api/crews/{crew}/trips/{trip}/kits/{kit}", { params: { path: { crew, trip, kit } } }),
  stow: (crew: string, trip: string, school: "use" | "technique" | "owner" | "balance") =>
    api.post("/api/crews/{crew}/trips/{trip}/stow", { ...ofTrip(crew, trip), body: { school } }),
  fish: (crew: string, trip: string, body: Schemas["FishInput"]) =>
    api.post("/api/crews/{crew}/trips/{trip}/catch", { ...ofTrip(crew, trip), body }),
  back: (crew: string, trip: string, fish: string, back: boolean) =>
    api.post("/api/crews/{crew}/trips/{trip}/catch/{fish}/back", {
      params: { path: { crew, trip, fish } },
      body: { back },
    }),
  noFish: (crew: string, trip: string, fish: string) =>
    api.delete("/api/crews/{crew}/trips/{trip}/catch/{fish}", { params: { path: { crew, trip, fish } } }),
  species: (crew: string, species: Schemas["Species"][]) =>
    api.put("/api/crews/{crew}/species", { params: { path: { crew } }, body: { species } }),
  guestLink: (crew: string, trip: string) => api.post("/api/crews/{crew}/trips/{trip}/guest-link", ofTrip(crew, trip)),
  noGuestLink: (crew: string, trip: string) =>
    api.delete("/api/crews/{crew}/trips/{trip}/guest-link", ofTrip(crew, trip)),
  photo: (crew: string, trip: string, file: File) =>
    api.post("/api/crews/{crew}/trips/{trip}/photos", {
      ...ofTrip(crew, trip),
      body: file as unknown as string,
      bodySerializer: (b) => b as unknown as BodyInit,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  noPhoto: (crew: string, trip: string, photo: string) =>
    api.delete("/api/crews/{crew}/trips/{trip}/photos/{photo}", { params: { path: { crew, trip, photo } } }),
  log: (crew: string, trip: string, body: Schemas["LogInput"]) =>
    api.post("/api/crews/{crew}/trips/{trip}/log", { ...ofTrip(crew, trip), body }),
  copy: (crew: string, trip: string, name: string, starts_on: string) =>
    api.post("/api/crews/{crew}/trips/{trip}/copy", { ...ofTrip(crew, trip), body: { name, starts_on } }),
};
