import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { ask } from "../../api/ask";
import { api, type Schemas, sayError } from "../../api/client";

export type PlanView = Schemas["PlanView"];
export type PlanInput = Schemas["PlanInput"];

/** How many rounds in a row may better nothing before the search ends by itself. */
const PATIENCE = 4;

/**
 * Looks for a plan in rounds, each beginning with the best so far, until it is
 * stopped, nothing better was found for some rounds, or no plan is better.
 */
export function usePlan(crew: string, boat: string) {
  const queries = useQueryClient();
  const [best, setBest] = useState<PlanView>();
  const [round, setRound] = useState(0);
  const [running, setRunning] = useState(false);
  const [error, setError] = useState<string>();
  const stopper = useRef<AbortController>(undefined);
  const stop = () => {
    stopper.current?.abort();
    setRunning(false);
  };
  useEffect(() => () => stopper.current?.abort(), []);

  const find = async (input: PlanInput) => {
    stopper.current?.abort();
    const mine = new AbortController();
    stopper.current = mine;
    setError(undefined);
    setRunning(true);
    setBest(undefined);
    let found: PlanView | undefined;
    try {
      for (let n = 1, idle = 0; idle < PATIENCE && !mine.signal.aborted; n++) {
        setRound(n);
        const next = (await api.post("/api/crews/{crew}/boats/{boat}/plan", {
          params: { path: { crew, boat } },
          body: { ...input, seed: n, from: found?.puts },
          signal: mine.signal,
        })) as PlanView;
        if (mine.signal.aborted) return;
        idle = !found || betters(next, found) ? 0 : idle + 1;
        if (!found || betters(next, found)) {
          found = next;
          setBest(next);
        }
        if (next.stopped_by === "proved") break;
      }
    } catch (e) {
      if (!mine.signal.aborted) setError(sayError(e));
    } finally {
      if (stopper.current === mine) setRunning(false);
    }
  };
  const forget = () => {
    stop();
    setBest(undefined);
    queries.invalidateQueries({ queryKey: ask.bench(crew, boat).queryKey });
  };
  return { best, round, running, error, find, stop, forget, show: setBest };
}

function betters(a: PlanView, b: PlanView): boolean {
  return (
    a.left_out.length < b.left_out.length || (a.left_out.length === b.left_out.length && a.cost_s < b.cost_s - 0.01)
  );
}
