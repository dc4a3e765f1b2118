import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/crew",
    title: "People",
    room: "crew",
    order: 10,
    page: lazy(() => import("./CrewPage")),
  },
];
