import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { askSafety } from "../../api/askSafety";
import type { Membership, Schemas } from "../../api/client";
import { useTicks, type WaitingTick } from "../../api/ticks";

export type Lists = Schemas["ListsView"];
export type Stage = Schemas["StageList"];
export type Line = Schemas["TickLine"] & { waits?: boolean };

/** What the stream tells of a tick, or that all began anew. */
type Told = { line?: string; done?: boolean; by?: string; at?: string; who?: string; anew?: boolean };

/** A trip's lists, with others' ticks as they come and one's own that wait for the network. */
export function useLists(me: Membership, trip: string) {
  const lists = useQuery(askSafety.lists(me.crew_id, trip));
  const ticks = useTicks(me, trip);
  const linked = useLive(me, trip, ticks.send) && !ticks.cut;
  const shown = lists.data && laidOver(lists.data, ticks.waiting, me.name);
  return { lists, shown, linked, ...ticks };
}

/** How long to wait before a stream that was refused is asked for again. */
const AGAIN_MS = 3000;

/**
 * Whether the server can be reached at all: asked past what the browser keeps. That a stream
 * ended says nothing of it, since proxies and sleep end streams too.
 */
async function reached(): Promise<boolean> {
  try {
    await fetch("/healthz", { cache: "no-store" });
    return true;
  } catch {
    return false;
  }
}

/** Listens to what happens on the trip; says whether the server can be reached. */
function useLive(me: Membership, trip: string, send: () => void): boolean {
  const queries = useQueryClient();
  const [linked, setLinked] = useState(true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: send is the same for a member
  useEffect(() => {
    let source: EventSource | undefined;
    let timer: ReturnType<typeof setTimeout>;
    let ended = false;
    const { queryKey } = askSafety.lists(me.crew_id, trip);
    const again = () => queries.invalidateQueries({ queryKey });
    const open = () => {
      source = new EventSource(`/api/crews/${me.crew_id}/trips/${trip}/live`);
      source.addEventListener("open", () => {
        setLinked(true);
        send();
        again(); // what was ticked while the line was down
      });
      source.addEventListener("again", again);
      source.addEventListener("message", (e) => heard(queries, me.crew_id, trip, JSON.parse(e.data) as Told, again));
      source.addEventListener("error", async () => {
        if (source?.readyState === EventSource.CLOSED) {
          clearTimeout(timer);
          timer = setTimeout(open, AGAIN_MS);
        }
        const found = await reached();
        if (!ended) setLinked(found);
      });
    };
    open();
    return () => {
      ended = true;
      clearTimeout(timer);
      source?.close();
    };
  }, [me.crew_id, trip, queries]);
  return linked;
}

function heard(queries: QueryClient, crew: string, trip: string, told: Told, again: () => void) {
  const { line } = told;
  if (told.anew || line === undefined) {
    again();
    return;
  }
  queries.setQueryData(askSafety.lists(crew, trip).queryKey, (was) => was && changed(was, line, { ...told }));
}

function changed(lists: Lists, key: string, change: Partial<Line>): Lists {
  const { done, by, at, who } = change;
  return counted({
    ...lists,
    stages: lists.stages.map((s) => ({
      ...s,
      lines: s.lines.map((l) => (l.key === key ? { ...l, done: done ?? l.done, by, at, who } : l)),
    })),
  });
}

/** One's own ticks that the server has not yet, over what it said. */
function laidOver(lists: Lists, waiting: WaitingTick[], name: string): Lists {
  if (waiting.length === 0) return lists;
  const last = new Map(waiting.map((t) => [t.line, t]));
  return counted({
    ...lists,
    stages: lists.stages.map((s) => ({
      ...s,
      lines: s.lines.map((l): Line => {
        const t = last.get(l.key);
        return t ? { ...l, done: t.done, by: name, at: t.at, waits: true } : l;
      }),
    })),
  });
}

function counted(lists: Lists): Lists {
  return {
    ...lists,
    stages: lists.stages.map((s) => {
      const open = s.lines.filter((l) => !l.done);
      return { ...s, left: open.length, held: open.filter((l) => l.holds).length };
    }),
  };
}
