import { useEffect, useState } from "react";

/** Whether the program's own faces have come, so that letters are measured as they will be drawn. */
export function useFonts(): boolean {
  const [ready, setReady] = useState(document.fonts.status === "loaded");
  useEffect(() => {
    let here = true;
    document.fonts.ready.then(() => here && setReady(true));
    return () => {
      here = false;
    };
  }, []);
  return ready;
}
