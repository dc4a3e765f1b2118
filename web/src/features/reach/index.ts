import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/crew/times",
    title: "Times",
    room: "crew",
    order: 20,
    page: lazy(() => import("./TimesPage")),
  },
];
