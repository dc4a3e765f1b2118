import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/arrangements",
    title: "Arrangements",
    room: "boat",
    order: 25,
    page: lazy(() => import("./ArrangementsPage")),
  },
  {
    path: "/boats/:boat/arrangements/:arrangement",
    room: "boat",
    page: lazy(() => import("./ArrangementPage")),
  },
];
