import { lazy } from "react";
import { askTrip } from "../../api/askTrip";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip",
    title: "Ready",
    room: "trip",
    order: 70,
    stage: "ready",
    page: lazy(() => import("./ReadyPage")),
    ahead: (queries, me, { trip = "" }) => queries.prefetchQuery(askTrip.page(me.crew_id, trip)),
  },
  {
    path: "/trips/:trip/who",
    title: "Who and what",
    room: "trip",
    order: 20,
    stage: "who",
    page: lazy(() => import("./WhoPage")),
  },
  {
    path: "/trips/:trip/pack",
    title: "Pack",
    room: "trip",
    order: 30,
    stage: "pack",
    page: lazy(() => import("./PackPage")),
  },
  {
    path: "/trips/:trip/stow",
    title: "Stow",
    room: "trip",
    order: 40,
    stage: "stow",
    page: lazy(() => import("./StowPage")),
  },
  {
    path: "/trips/:trip/sheets",
    title: "Sheets",
    room: "trip",
    order: 72,
    page: lazy(() => import("./SheetsPage")),
  },
  {
    path: "/trips/:trip/log",
    title: "Log",
    room: "trip",
    order: 80,
    page: lazy(() => import("./LogPage")),
  },
  {
    path: "/trips",
    title: "All trips",
    tab: "Trips",
    room: "trip",
    order: 90,
    page: lazy(() => import("./TripsPage")),
  },
];
