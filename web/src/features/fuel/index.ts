import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip/fuel",
    tab: "Fuel",
    room: "trip",
    page: lazy(() => import("./FuelPage")),
  },
];
