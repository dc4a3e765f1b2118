import { lazy } from "react";
import { askSafety } from "../../api/askSafety";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/safety",
    title: "Safety",
    room: "boat",
    order: 37,
    page: lazy(() => import("./SafetyPage")),
    ahead: (queries, me, { boat = "" }) => queries.prefetchQuery(askSafety.boat(me.crew_id, boat)),
  },
  {
    path: "/trips/:trip/check",
    title: "Safety",
    room: "trip",
    order: 65,
    page: lazy(() => import("./CheckPage")),
    ahead: (queries, me, { trip = "" }) => queries.prefetchQuery(askSafety.check(me.crew_id, trip)),
  },
  {
    path: "/papers",
    title: "Papers",
    room: "crew",
    order: 60,
    needs: "move",
    page: lazy(() => import("./PapersPage")),
  },
  {
    path: "/rules",
    title: "Rules",
    room: "crew",
    order: 70,
    page: lazy(() => import("./RulesPage")),
  },
];
