import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips",
    title: "Trips",
    room: "trip",
    order: 10,
    page: lazy(() => import("./TripsPage")),
  },
];
