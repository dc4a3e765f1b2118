import { useMutation, useQueryClient } from "@tanstack/react-query";
import { LogOut, Moon, Ruler, Sun } from "lucide-react";
import { ask } from "../api/ask";
import { api, type Membership, type Session } from "../api/client";
import { forgetKept } from "../api/ticks";
import { forgetDrafts } from "../ui/useDraft";

/** One's own settings: units, theme, and the way out. */
export function Settings({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (body: { units: Membership["units"]; theme: Membership["theme"] }) =>
      api.put("/api/crews/{crew}/settings", { params: { path: { crew: me.crew_id } }, body }),
    onMutate: (body) =>
      queries.setQueryData<Session>(["session"], (s) =>
        s ? { ...s, crews: s.crews.map((c) => (c.crew_id === me.crew_id ? { ...c, ...body } : c)) } : s,
      ),
    // Sentences of the server are in the units of who reads them.
    onSettled: (_, __, body) =>
      queries.invalidateQueries(body.units ? undefined : { queryKey: ask.session().queryKey }),
  });
  const out = useMutation({
    mutationFn: () => api.delete("/api/session"),
    onSuccess: () => {
      forgetDrafts();
      forgetKept();
      window.location.assign("/"); // a fresh page keeps nothing of the crew in memory
    },
  });
  const button =
    "flex min-h-11 cursor-pointer items-center gap-1 px-1 label-type lg:gap-1.5 lg:px-1.5 text-base hover:underline";
  const us = me.units === "us";
  const night = me.theme === "night";
  return (
    <div className="ml-auto flex items-center gap-1">
      <button
        type="button"
        className={button}
        onClick={() => choose.mutate({ units: us ? "metric" : "us", theme: me.theme })}
      >
        <Ruler size={18} aria-hidden="true" /> {us ? "US" : "metric"}
        <span className="sr-only"> units, change to {us ? "metric" : "US"}</span>
      </button>
      <button
        type="button"
        className={button}
        onClick={() => choose.mutate({ units: me.units, theme: night ? "paper" : "night" })}
      >
        {night ? <Sun size={18} aria-hidden="true" /> : <Moon size={18} aria-hidden="true" />}{" "}
        {night ? "paper" : "night"}
        <span className="sr-only"> theme</span>
      </button>
      <span
        className="label-type grid size-9 place-items-center rounded-full border border-base-content text-lg"
        title={`${me.name}, ${me.role}`}
      >
        <span className="sr-only">{me.name}, </span>
        {me.mark}
      </span>
      <button type="button" className={button} aria-label="Sign out" onClick={() => out.mutate()}>
        <LogOut size={18} aria-hidden="true" />
      </button>
    </div>
  );
}
