import type { Hit } from "../api/client";

/** Where a find leads. */
export function pathOf(hit: Hit): string {
  switch (hit.kind) {
    case "gear":
      return `/gear/${hit.id}`;
    case "place":
      return `/places/${hit.boat_id}/${hit.id}`;
    case "shed":
      return `/shed/${hit.id}`;
    case "boat":
      return `/boats/${hit.id}`;
    default:
      return `/gear?owner=${hit.id}`;
  }
}
