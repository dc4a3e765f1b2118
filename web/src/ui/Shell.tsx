import { useMutation, useQueryClient } from "@tanstack/react-query";
import { LogOut, Moon, Ruler, Search, Sun } from "lucide-react";
import { lazy, type ReactNode, Suspense, useEffect, useState } from "react";
import { NavLink, useNavigate, useParams } from "react-router";
import { ask } from "../api/ask";
import { api, type Membership, type Session } from "../api/client";
import { may } from "../domain/may";
import { forgetDrafts } from "./useDraft";

const FindBox = lazy(() => import("../features/find/FindBox"));

/** The page's frame: the boat's name, the rooms, and one's own settings. */
export function Shell({ me, children }: { me: Membership; children: ReactNode }) {
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <header className="no-print flex flex-wrap items-center gap-x-2 gap-y-0 border-b border-base-content bg-base-200 px-4 lg:h-13 lg:flex-nowrap lg:gap-x-5">
        <span className="label-type text-2xl">Ergasia</span>
        <Rooms me={me} />
        <Find me={me} />
        <Settings me={me} />
      </header>
      {children}
    </div>
  );
}

/** Finding, from anywhere: by the button or by `/`. */
function Find({ me }: { me: Membership }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName);
      if (e.key !== "/" || typing || e.ctrlKey || e.metaKey || e.altKey) return;
      e.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  return (
    <>
      <button
        type="button"
        className="label-type ml-auto flex min-h-11 cursor-pointer items-center gap-1.5 border border-(--hair) px-2 text-base hover:bg-base-100 lg:my-1 lg:ml-0 lg:px-3"
        onClick={() => setOpen(true)}
      >
        <Search size={18} aria-hidden="true" /> Find
        <kbd className="quiet hidden text-sm xl:inline" aria-hidden="true">
          /
        </kbd>
      </button>
      {open && (
        <Suspense>
          <FindBox me={me} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}

/** What belongs to the crew, not to one boat. */
const OF_THE_CREW = [
  ["/gear", "Gear"],
  ["/kits", "Kits"],
  ["/trips", "Trips"],
  ["/due", "Due"],
  ["/crew", "Crew"],
] as const;

/** What can be done with a boat, in the order people do it. */
const OF_A_BOAT = [
  ["", "Stow"],
  ["/plan", "Plan"],
  ["/rods", "Rods"],
  ["/float", "Float"],
  ["/check", "Check"],
  ["/road", "Road"],
] as const;

function Rooms({ me }: { me: Membership }) {
  const { "*": rest = "" } = useParams();
  const here = /^boats\/([0-9a-f-]{36})/.exec(rest)?.[1] ?? me.boats[0]?.id;
  const boat = me.boats.find((b) => b.id === here);
  const room = ({ isActive }: { isActive: boolean }) =>
    `label-type flex min-h-11 items-center px-1 text-lg ${isActive ? "border-b-3 border-base-content pt-[3px]" : "quiet hover:underline"}`;
  const maySetUp = may(me, "change_boat");
  return (
    <nav
      className="order-3 flex w-full gap-x-3.5 overflow-x-auto [scrollbar-width:none]! lg:order-none lg:w-auto lg:flex-1"
      aria-label="Rooms"
    >
      {boat && <BoatChoice me={me} boat={boat.id} />}
      {boat &&
        OF_A_BOAT.map(([path, name]) => (
          <NavLink key={path} to={`/boats/${boat.id}${path}`} end className={room}>
            {name}
          </NavLink>
        ))}
      {maySetUp && (
        <NavLink to={boat ? `/boats/${boat.id}/setup` : "/boats/new"} className={room}>
          <span className="whitespace-nowrap">Set up</span>
        </NavLink>
      )}
      <span className="my-3 border-(--hair) border-l" aria-hidden="true" />
      {OF_THE_CREW.map(([path, name]) => (
        <NavLink key={path} to={path} className={room}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}

/** The boat's name; a choice where the crew has several. */
function BoatChoice({ me, boat }: { me: Membership; boat: string }) {
  const navigate = useNavigate();
  const { "*": rest = "" } = useParams();
  if (me.boats.length === 1)
    return <span className="label-type flex min-h-11 items-center text-lg">{me.boats[0]?.name}</span>;
  return (
    <select
      aria-label="Boat"
      className="label-type min-h-11 cursor-pointer bg-transparent text-lg"
      value={boat}
      onChange={(e) =>
        navigate(`/${rest.includes(boat) ? rest.replace(boat, e.target.value) : `boats/${e.target.value}`}`)
      }
    >
      {me.boats.map((b) => (
        <option key={b.id} value={b.id}>
          {b.name}
        </option>
      ))}
    </select>
  );
}

function Settings({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (body: { units: Membership["units"]; theme: Membership["theme"] }) =>
      api.put("/api/crews/{crew}/settings", { params: { path: { crew: me.crew_id } }, body }),
    onMutate: (body) =>
      queries.setQueryData<Session>(["session"], (s) =>
        s ? { ...s, crews: s.crews.map((c) => (c.crew_id === me.crew_id ? { ...c, ...body } : c)) } : s,
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ask.session().queryKey }),
  });
  const out = useMutation({
    mutationFn: () => api.delete("/api/session"),
    onSuccess: () => {
      forgetDrafts();
      window.location.assign("/"); // a fresh page keeps nothing of the crew in memory
    },
  });
  const button =
    "flex min-h-11 cursor-pointer items-center gap-1 px-1 label-type lg:gap-1.5 lg:px-1.5 text-base hover:underline";
  const us = me.units === "us";
  const night = me.theme === "night";
  return (
    <div className="flex items-center gap-1 lg:ml-auto">
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
