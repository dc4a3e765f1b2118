import { lazy } from "react";
import { askSafety } from "../../api/askSafety";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/jobs",
    title: "Jobs",
    room: "boat",
    order: 75,
    page: lazy(() => import("./JobsPage")),
    ahead: (queries, me, { boat = "" }) => queries.prefetchQuery(askSafety.jobs(me.crew_id, boat)),
  },
];
