import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/sheet",
    title: "Sheet",
    room: "boat",
    order: 70,
    page: lazy(() => import("./SheetPage")),
  },
];
