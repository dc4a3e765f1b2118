import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/plan",
    title: "Plan",
    room: "boat",
    order: 20,
    page: lazy(() => import("./PlanPage")),
  },
];
