import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/check",
    title: "Check",
    room: "boat",
    order: 50,
    page: lazy(() => import("./CheckPage")),
  },
];
