import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/weigh",
    title: "Weigh",
    room: "gear",
    order: 50,
    page: lazy(() => import("./WeighPage")),
  },
];
