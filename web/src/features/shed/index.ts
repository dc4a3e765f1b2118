import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/shed",
    title: "Ashore",
    room: "gear",
    order: 20,
    page: lazy(() => import("./ShedPage")),
  },
];
