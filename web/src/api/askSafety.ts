import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas } from "./client";

const ofCrew = (crew: string) => ({ params: { path: { crew } } });
const ofTrip = (crew: string, trip: string) => ({ params: { path: { crew, trip } } });
const ofBoat = (crew: string, boat: string) => ({ params: { path: { crew, boat } } });

/** What is asked of safety equipment, rules, papers, lists, jobs, the brief and the drill; see ask. */
export const askSafety = {
  boat: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "safety", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}/safety", { ...ofBoat(crew, boat), signal }),
    }),
  check: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "check", trip],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips/{trip}/check", { ...ofTrip(crew, trip), signal }),
    }),
  packs: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "packs", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/packs", { ...ofCrew(crew), signal }),
    }),
  papers: (crew: string) =>
    queryOptions({
      queryKey: ["gear", "papers", crew],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/papers", { ...ofCrew(crew), signal }),
    }),
  paperPhotos: (crew: string, paper: string) =>
    queryOptions({
      queryKey: ["gear", "paper-photos", paper],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/papers/{paper}/photos", { params: { path: { crew, paper } }, signal }),
    }),
  /** A trip's checklists; others' ticks come by the live stream, and what could not be sent yet is laid over them. */
  lists: (crew: string, trip: string) =>
    queryOptions({
      queryKey: ["gear", "lists", trip],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/trips/{trip}/lists", { ...ofTrip(crew, trip), signal }),
    }),
  jobs: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "jobs", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}/jobs", { ...ofBoat(crew, boat), signal }),
    }),
  jobPhotos: (crew: string, boat: string, job: string) =>
    queryOptions({
      queryKey: ["gear", "job-photos", job],
      queryFn: ({ signal }) =>
        api.get("/api/crews/{crew}/boats/{boat}/jobs/{job}/photos", { params: { path: { crew, boat, job } }, signal }),
    }),
  brief: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "brief", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}/brief", { ...ofBoat(crew, boat), signal }),
    }),
  /** What the holder of a boat's link is shown. */
  held: (token: string) =>
    queryOptions({
      queryKey: ["aboard", token],
      queryFn: ({ signal }) => api.get("/api/aboard", { params: { header: { "X-Link-Token": token } }, signal }),
      retry: false,
    }),
  drill: (crew: string, boat: string) =>
    queryOptions({
      queryKey: ["gear", "drill", boat],
      queryFn: ({ signal }) => api.get("/api/crews/{crew}/boats/{boat}/drill", { ...ofBoat(crew, boat), signal }),
    }),
};

const picture = (file: File) => ({
  body: file as unknown as string,
  bodySerializer: (b: unknown) => b as BodyInit,
  headers: { "Content-Type": "application/octet-stream" },
});

/** What is written of them; each refuses what was changed meanwhile. */
export const writeSafety = {
  carriage: (crew: string, boat: string, body: Schemas["CarriageInput"], version: number) =>
    api.put("/api/crews/{crew}/boats/{boat}/carriage", { ...ofBoat(crew, boat), body: { ...body, version } }),
  tripRules: (crew: string, trip: string, body: Schemas["TripRules"], version: number) =>
    api.put("/api/crews/{crew}/trips/{trip}/rules", { ...ofTrip(crew, trip), body: { ...body, version } }),
  choosePacks: (crew: string, country: string, packs: string[], version: number) =>
    api.put("/api/crews/{crew}/packs", { ...ofCrew(crew), body: { country, packs, version } }),
  addPack: (crew: string, pack: string) => api.post("/api/crews/{crew}/packs", { ...ofCrew(crew), body: { pack } }),
  changePack: (crew: string, id: string, pack: string, version: number) =>
    api.put("/api/crews/{crew}/packs/{pack}", { params: { path: { crew, pack: id } }, body: { pack, version } }),
  noPack: (crew: string, pack: string) =>
    api.delete("/api/crews/{crew}/packs/{pack}", { params: { path: { crew, pack } } }),
  addPaper: (crew: string, body: Schemas["PaperInput"]) =>
    api.post("/api/crews/{crew}/papers", { ...ofCrew(crew), body }),
  changePaper: (crew: string, paper: string, body: Schemas["PaperInput"], version: number) =>
    api.put("/api/crews/{crew}/papers/{paper}", { params: { path: { crew, paper } }, body: { ...body, version } }),
  noPaper: (crew: string, paper: string) =>
    api.delete("/api/crews/{crew}/papers/{paper}", { params: { path: { crew, paper } } }),
  paperPhoto: (crew: string, paper: string, file: File) =>
    api.post("/api/crews/{crew}/papers/{paper}/photos", { params: { path: { crew, paper } }, ...picture(file) }),
  noPaperPhoto: (crew: string, paper: string, photo: string) =>
    api.delete("/api/crews/{crew}/papers/{paper}/photos/{photo}", { params: { path: { crew, paper, photo } } }),
  promise: (crew: string, trip: string, gear: string[]) =>
    api.post("/api/crews/{crew}/trips/{trip}/gear", { ...ofTrip(crew, trip), body: { gear } }),
  move: (crew: string, boat: string, gear_id: string, place_id: string, version: number) =>
    api.post("/api/crews/{crew}/boats/{boat}/moves", { ...ofBoat(crew, boat), body: { gear_id, place_id, version } }),
  tick: (crew: string, trip: string, key: string, body: Schemas["TickInput"]) =>
    api.post("/api/crews/{crew}/trips/{trip}/ticks", {
      params: { path: { crew, trip }, header: { "Idempotency-Key": key } },
      body,
    }),
  assign: (crew: string, trip: string, line: string, who: string | undefined) =>
    api.put("/api/crews/{crew}/trips/{trip}/ticks", { ...ofTrip(crew, trip), body: { line, who } }),
  beginLists: (crew: string, trip: string) =>
    api.post("/api/crews/{crew}/trips/{trip}/lists/begin", ofTrip(crew, trip)),
  addLine: (crew: string, body: Schemas["OwnLineInput"]) =>
    api.post("/api/crews/{crew}/list-lines", { ...ofCrew(crew), body }),
  changeLine: (crew: string, line: string, body: Schemas["OwnLineInput"], version: number) =>
    api.put("/api/crews/{crew}/list-lines/{line}", { params: { path: { crew, line } }, body: { ...body, version } }),
  noLine: (crew: string, line: string) =>
    api.delete("/api/crews/{crew}/list-lines/{line}", { params: { path: { crew, line } } }),
  report: (crew: string, boat: string, body: Schemas["JobInput"]) =>
    api.post("/api/crews/{crew}/boats/{boat}/jobs", { ...ofBoat(crew, boat), body }),
  changeJob: (crew: string, boat: string, job: string, body: Schemas["JobChange"]) =>
    api.put("/api/crews/{crew}/boats/{boat}/jobs/{job}", { params: { path: { crew, boat, job } }, body }),
  noJob: (crew: string, boat: string, job: string) =>
    api.delete("/api/crews/{crew}/boats/{boat}/jobs/{job}", { params: { path: { crew, boat, job } } }),
  jobPhoto: (crew: string, boat: string, job: string, file: File) =>
    api.post("/api/crews/{crew}/boats/{boat}/jobs/{job}/photos", {
      params: { path: { crew, boat, job } },
      ...picture(file),
    }),
  brief: (crew: string, boat: string, body: Schemas["BriefInput"], version: number) =>
    api.put("/api/crews/{crew}/boats/{boat}/brief", { ...ofBoat(crew, boat), body: { ...body, version } }),
  boatLink: (crew: string, boat: string) => api.post("/api/crews/{crew}/boats/{boat}/brief/link", ofBoat(crew, boat)),
  noBoatLink: (crew: string, boat: string) =>
    api.delete("/api/crews/{crew}/boats/{boat}/brief/link", ofBoat(crew, boat)),
  tried: (crew: string, boat: string, body: Schemas["DrillTry"]) =>
    api.post("/api/crews/{crew}/boats/{boat}/drill", { ...ofBoat(crew, boat), body }),
  forget: (crew: string, boat: string) => api.delete("/api/crews/{crew}/boats/{boat}/drill", ofBoat(crew, boat)),
};
