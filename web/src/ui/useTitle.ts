import { useEffect } from "react";

/** Calls the browser's tab after what the page shows, such as "cooler" or "Float, Dunlin". */
export function useTitle(title: string | undefined) {
  useEffect(() => {
    if (title !== undefined) document.title = title ? `${title} · Ergasia` : "Ergasia";
  }, [title]);
}
