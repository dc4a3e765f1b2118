import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip/fuel",
    title: "Fuel",
    room: "trip",
    order: 50,
    stage: "fuel",
    page: lazy(() => import("./FuelPage")),
  },
];
