import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip/day",
    title: "Day",
    room: "trip",
    order: 60,
    stage: "day",
    page: lazy(() => import("./DayPage")),
  },
];
