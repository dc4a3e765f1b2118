import { lazy } from "react";
import { askSafety } from "../../api/askSafety";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip/lists",
    title: "Lists",
    room: "trip",
    order: 71,
    page: lazy(() => import("./ListsPage")),
    ahead: (queries, me, { trip = "" }) => queries.prefetchQuery(askSafety.lists(me.crew_id, trip)),
  },
];
