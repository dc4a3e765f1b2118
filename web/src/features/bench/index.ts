import { ask } from "../../api/ask";
import type { Feature } from "../../domain/pages";
import { BenchPage } from "./BenchPage";

export const feature: Feature = [
  {
    path: "/boats/:boat",
    title: "Stow",
    room: "boat",
    order: 10,
    page: BenchPage,
    ahead: (queries, me, { boat = "" }) => {
      queries.prefetchQuery(ask.bench(me.crew_id, boat));
    },
  },
];
