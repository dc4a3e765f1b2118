import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/road",
    title: "Road",
    room: "boat",
    order: 60,
    page: lazy(() => import("./RoadPage")),
  },
];
