import { lazy } from "react";
import type { Feature } from "../../domain/pages";

export const feature: Feature = [
  {
    path: "/boats/:boat/diary",
    title: "Diary",
    room: "boat",
    order: 75,
    page: lazy(() => import("./DiaryPage")),
  },
];
