import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/kits",
    title: "Kits",
    room: "gear",
    order: 30,
    page: lazy(() => import("./KitsPage")),
  },
  {
    path: "/kits/:kit",
    room: "gear",
    page: lazy(() => import("./KitsPage")),
  },
];
