import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { askSafety } from "../../api/askSafety";
import { sayError } from "../../api/client";
import { Brief } from "../../parts/Brief";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";

function onHash(changed: () => void) {
  window.addEventListener("hashchange", changed);
  return () => window.removeEventListener("hashchange", changed);
}

/** What the code aboard opens. The token is behind the #, which no browser sends to a server. */
export default function AboardPage() {
  const token = useSyncExternalStore(onHash, () => window.location.hash.slice(1));
  const view = useQuery({ ...askSafety.held(token), enabled: token.length >= 20 });
  useTitle(view.data && `Aboard ${view.data.boat}`);
  if (token.length < 20) return <ErrorNote text="This link is not whole: copy all of it, to its last letter." />;
  if (view.isPending) return <Waiting text="Reading the link…" />;
  if (view.isError) return <ErrorNote text={sayError(view.error)} />;
  return (
    <main className="mx-auto grid max-w-xl content-start gap-3 p-4">
      <h1 className="label-type text-3xl leading-tight">Aboard {view.data.boat}</h1>
      <Brief v={view.data} />
    </main>
  );
}
