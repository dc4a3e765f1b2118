import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/gear",
    title: "List",
    tab: "Gear list",
    room: "gear",
    order: 10,
    page: lazy(() => import("./GearPage")),
  },
  {
    path: "/gear/table",
    title: "Table",
    tab: "Gear table",
    room: "gear",
    order: 70,
    page: lazy(() => import("./TablePage")),
  },
  {
    path: "/gear/:gear",
    room: "gear",
    page: lazy(() => import("./PiecePage")),
  },
  {
    path: "/places/:boat/:place",
    room: "gear",
    page: lazy(() => import("./PlacePage")),
  },
  {
    path: "/shed/:shed",
    room: "gear",
    page: lazy(() => import("./PlacePage")),
  },
  {
    path: "/at/:code",
    title: "Label",
    room: "gear",
    page: lazy(() => import("./AtPage")),
  },
];
