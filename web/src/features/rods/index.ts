import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/rods",
    title: "Rods",
    room: "boat",
    order: 30,
    page: lazy(() => import("./RodsPage")),
  },
];
