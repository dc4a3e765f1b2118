import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Undo2, X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { ask } from "../api/ask";
import { api, type Membership, Refusal, sayError } from "../api/client";

const SHOWN_MS = 60_000;

/** What was done in one stroke, and the way back, for a minute after it. */
export function UndoBar({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const asked = useQuery(ask.undoable(me.crew_id)).data;
  const last = asked?.undoable;
  const before = useRef<string>(undefined); // what there was when the page came is old news
  if (asked && before.current === undefined) before.current = last?.id ?? "none";
  const [gone, setGone] = useState<string>();
  const back = useMutation({
    mutationFn: (undoable: string) =>
      api.post("/api/crews/{crew}/undoable/{undoable}/undo", { params: { path: { crew: me.crew_id, undoable } } }),
    onSettled: () => queries.invalidateQueries(),
  });
  useEffect(() => {
    if (!last) return;
    const timer = setTimeout(() => setGone(last.id), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [last]);
  const said = back.data?.said ?? [];
  const failed = back.error;
  const offer = last && last.id !== gone && last.id !== before.current ? last : undefined;
  if (!offer && said.length === 0 && !failed) return null;
  return (
    <section
      aria-label="Take back"
      className="no-print fixed inset-x-2 bottom-[calc(var(--bar)+0.5rem)] z-30 flex flex-wrap items-center gap-x-3 border border-base-content bg-base-100 px-3 py-1 lg:right-4 lg:bottom-4 lg:left-auto lg:max-w-xl"
    >
      <p role="status" className="min-w-0 flex-1 py-1">
        {failed
          ? `${sayError(failed)} ${failed instanceof Refusal ? failed.details.join(" ") : ""}`
          : (offer?.said ?? said.join(" "))}
      </p>
      {offer && (
        <button
          type="button"
          className="plain-button flex items-center gap-1.5"
          disabled={back.isPending}
          onClick={() => back.mutate(offer.id)}
        >
          <Undo2 size={16} aria-hidden="true" /> Take it back
        </button>
      )}
      <button
        type="button"
        aria-label="Close"
        className="grid size-11 cursor-pointer place-items-center"
        onClick={() => {
          back.reset();
          setGone(offer?.id);
        }}
      >
        <X size={16} aria-hidden="true" />
      </button>
    </section>
  );
}
