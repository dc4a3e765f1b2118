import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/trips/:trip/catch",
    title: "Catch",
    room: "trip",
    order: 75,
    page: lazy(() => import("./CatchPage")),
  },
];
