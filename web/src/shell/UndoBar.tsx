import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Undo2, X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { ask } from "../api/ask";
import { api, type Membership, Refusal, sayError } from "../api/client";

/** How long it is offered, and how long it stays at least where an action leads to another page. */
const SHOWN_MS = 30_000;
const LED_MS = 4000;

/** What was done in one stroke, and the way back, on the page where it was done. */
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
  const close = () => {
    back.reset();
    setGone(last?.id ?? "none");
  };
  const since = useRef(0);
  useEffect(() => {
    if (!last) return;
    since.current = Date.now();
    const timer = setTimeout(() => setGone(last.id), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [last]);
  const { pathname } = useLocation();
  const latest = useRef(close);
  latest.current = close;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page, another matter
  useEffect(() => {
    if (Date.now() - since.current > LED_MS) latest.current();
  }, [pathname]);
  const said = back.data?.said ?? [];
  const failed = back.error;
  const offer = last && last.id !== gone && last.id !== before.current ? last : undefined;
  const shown = offer !== undefined || said.length > 0 || failed !== null;
  useEffect(() => {
    if (!shown) return;
    const leave = (e: KeyboardEvent) => e.key === "Escape" && latest.current();
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, [shown]);
  if (!shown) return null;
  return (
    <section
      aria-label="Undo"
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
          <Undo2 size={16} aria-hidden="true" /> Undo
        </button>
      )}
      <button
        type="button"
        aria-label="Close (Escape)"
        className="grid size-11 cursor-pointer place-items-center"
        onClick={close}
      >
        <X size={16} aria-hidden="true" />
      </button>
    </section>
  );
}
