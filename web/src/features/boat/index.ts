import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/new",
    title: "A new boat",
    room: "boat",
    page: lazy(() => import("./SetupPage")),
  },
  {
    path: "/boats/:boat/setup",
    title: "Set up",
    room: "boat",
    order: 80,
    needs: "change_boat",
    page: lazy(() => import("./SetupPage")),
  },
];
