import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/labels",
    title: "Labels",
    room: "gear",
    order: 60,
    page: lazy(() => import("./LabelsPage")),
  },
];
