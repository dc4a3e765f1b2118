import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 639px)";

/** Whether the page is as narrow as a phone, where a plan stands bow up. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (told) => {
      const query = window.matchMedia(NARROW);
      query.addEventListener("change", told);
      return () => query.removeEventListener("change", told);
    },
    () => window.matchMedia(NARROW).matches,
  );
}
