import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/due",
    title: "Due",
    room: "gear",
    order: 40,
    page: lazy(() => import("./DuePage")),
  },
];
