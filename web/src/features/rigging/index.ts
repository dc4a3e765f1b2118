import { lazy } from "react";
import { askBoat } from "../../api/askBoat";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/rigging",
    title: "Rigging",
    room: "boat",
    order: 35,
    page: lazy(() => import("./RiggingPage")),
    ahead: (queries, me, { boat }) => queries.prefetchQuery(askBoat.rigging(me.crew_id, boat ?? "")),
  },
];
