import { lazy } from "react";
import { askPower } from "../../api/askPower";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/power",
    title: "Power",
    room: "boat",
    order: 36,
    page: lazy(() => import("./PowerPage")),
    ahead: (queries, me, { boat = "" }) => queries.prefetchQuery(askPower.boat(me.crew_id, boat)),
  },
];
