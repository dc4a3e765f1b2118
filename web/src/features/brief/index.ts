import { lazy } from "react";
import { askSafety } from "../../api/askSafety";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/brief",
    title: "Brief",
    room: "boat",
    order: 73,
    page: lazy(() => import("./BriefPage")),
    ahead: (queries, me, { boat = "" }) => queries.prefetchQuery(askSafety.brief(me.crew_id, boat)),
  },
  {
    path: "/boats/:boat/drill",
    title: "Find drill",
    room: "boat",
    page: lazy(() => import("./DrillPage")),
    ahead: (queries, me, { boat = "" }) => queries.prefetchQuery(askSafety.drill(me.crew_id, boat)),
  },
];
