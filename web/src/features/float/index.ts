import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/float",
    title: "Float",
    room: "boat",
    order: 40,
    page: lazy(() => import("./FloatPage")),
  },
];
