import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Check } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { freshGear, freshUndo } from "../../api/ask";
import { writeSafety } from "../../api/askSafety";
import { type Membership, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";
import { OwnLine } from "./OwnLine";
import { type Line, type Lists, type Stage, useLists } from "./useLists";

const STAGES = Object.fromEntries(WORDS.list_stages);

/** A trip's checklists: one stage at a time, ticked by everyone's phone. */
export default function ListsPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const l = useLists(me, trip);
  useTitle(l.shown && `Lists, ${l.shown.name}`);
  if (l.lists.isPending) return <Waiting text="Making the lists…" />;
  if (!l.shown) return <ErrorNote text={sayError(l.lists.error)} onRetry={() => l.lists.refetch()} />;
  return <Ticked me={me} l={l} lists={l.shown} />;
}

function Ticked({ me, l, lists }: { me: Membership; l: ReturnType<typeof useLists>; lists: Lists }) {
  const [search, setSearch] = useSearchParams();
  const stage =
    lists.stages.find((s) => s.stage === search.get("stage")) ??
    lists.stages.find((s) => s.left > 0) ??
    lists.stages[0];
  const ticks = may(me, "move") && !lists.logged;
  if (!stage) return <ErrorNote text="The trip has no boat yet: choose one, and its lists are made." />;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-3xl gap-4 p-4 lg:p-6">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <h1 className="label-type text-3xl leading-tight">
            {lists.name}
            {lists.boat && <span className="quiet">, {lists.boat}</span>}
          </h1>
          <Launch at={lists.launch_at} />
        </div>
        <Line1 l={l} />
        <Stages stages={lists.stages} chosen={stage} onChoose={(s) => setSearch({ stage: s }, { replace: true })} />
        <Held stage={stage} />
        <ul aria-label={STAGES[stage.stage]} className="grid border-base-content border-t">
          {stage.lines.map((x) => (
            <LineRow key={x.key} me={me} lists={lists} stage={stage} x={x} ticks={ticks} onTick={l.tick} />
          ))}
        </ul>
        {may(me, "change_gear") && !lists.logged && (
          <OwnLine key={stage.stage} me={me} lists={lists} stage={stage.stage} />
        )}
        <Below me={me} lists={lists} ticks={ticks} />
      </div>
    </main>
  );
}

/** Whether this phone has a line, and what waits for one. */
function Line1({ l }: { l: ReturnType<typeof useLists> }) {
  const n = l.waiting.length;
  if (l.refused)
    return (
      <p role="alert" className="text-loud">
        A tick was not saved: {l.refused}
      </p>
    );
  if (l.linked && n === 0) return null;
  return (
    <p
      role="status"
      data-testid="line"
      className="no-print fixed inset-x-0 bottom-(--bar) z-10 border-base-content border-y bg-base-200 px-4 py-2 text-center leading-snug lg:bottom-0"
    >
      {l.linked ? "" : "No network. "}
      {n > 0
        ? `${n === 1 ? "1 tick is" : `${n} ticks are`} saved on this phone${l.linked ? ", not sent yet." : " and sent when the network is back."}`
        : "Ticks are saved on this phone until it is back."}
    </p>
  );
}

function Stages({ stages, chosen, onChoose }: { stages: Stage[]; chosen: Stage; onChoose: (s: string) => void }) {
  return (
    <div
      role="tablist"
      aria-label="Stages"
      className="flex gap-x-1 overflow-x-auto border-(--hair) border-b sm:flex-wrap sm:overflow-visible"
    >
      {stages.map((s) => (
        <button
          key={s.stage}
          type="button"
          role="tab"
          aria-selected={s === chosen}
          className={`label-type min-h-12 shrink-0 cursor-pointer px-2 text-lg ${s === chosen ? "border-base-content border-b-3" : "quiet"}`}
          onClick={() => onChoose(s.stage)}
        >
          {STAGES[s.stage]}{" "}
          <span className={s.held > 0 ? "text-loud" : ""}>
            {s.left === 0 ? <Check size={16} className="inline" aria-label="done" /> : s.left}
          </span>
        </button>
      ))}
    </div>
  );
}

function Held({ stage }: { stage: Stage }) {
  const held = stage.lines.filter((x) => x.holds && !x.done);
  return (
    <p role="status" data-testid="held" className="text-2xl leading-tight">
      {held.length > 0 ? (
        <b className="text-loud">
          Hold: {held.length === 1 ? held[0]?.text : `${held[0]?.text}, and ${held.length - 1} more`}.
        </b>
      ) : stage.left === 0 ? (
        <b>All done.</b>
      ) : (
        <b>{stage.left} to do. Nothing holds.</b>
      )}
    </p>
  );
}

type RowProps = {
  me: Membership;
  lists: Lists;
  stage: Stage;
  x: Line;
  ticks: boolean;
  onTick: (line: string, done: boolean) => void;
};

function LineRow({ me, lists, stage, x, ticks, onTick }: RowProps) {
  const [open, setOpen] = useState(false);
  return (
    <li className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-2" data-line={x.key}>
      <button
        type="button"
        role="checkbox"
        aria-checked={x.done}
        disabled={!ticks}
        className="grid min-h-14 cursor-pointer grid-cols-[2.75rem_minmax(0,1fr)] items-center py-1.5 text-left disabled:cursor-default"
        onClick={() => onTick(x.key, !x.done)}
      >
        <span
          aria-hidden="true"
          className={`grid size-8 place-items-center border-2 ${x.done ? "border-base-content bg-base-content text-base-100" : x.holds ? "border-accent" : "border-base-content"}`}
        >
          {x.done && <Check size={24} strokeWidth={3} />}
        </span>
        <span>
          <span className={`text-lg leading-tight ${x.done ? "quiet" : ""}`}>
            {x.text}
            {x.holds && !x.done && <span className="text-loud"> holds</span>}
          </span>
          <span className="quiet block text-sm leading-snug">
            {[
              x.forgotten && !x.done && "forgotten last time",
              x.where,
              x.at && x.by && `${x.done ? "" : "taken back by "}${x.by} ${clockOf(x.at)}`,
              x.waits && "waits for the network",
            ]
              .filter(Boolean)
              .join(", ")}
          </span>
        </span>
      </button>
      <span className="flex items-center gap-1">
        {lists.people.length > 1 && <Who me={me} lists={lists} x={x} may={ticks} />}
        {x.own_id && may(me, "change_gear") && !lists.logged && (
          <button type="button" className="plain-button" aria-expanded={open} onClick={() => setOpen(!open)}>
            Change
          </button>
        )}
      </span>
      {open && x.own_id && (
        <div className="col-span-2 pb-3">
          <OwnLine me={me} lists={lists} stage={stage.stage} line={x} onDone={() => setOpen(false)} />
        </div>
      )}
    </li>
  );
}

function clockOf(at: string): string {
  return new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

/** Whose line it is. */
function Who({ me, lists, x, may: changes }: { me: Membership; lists: Lists; x: Line; may: boolean }) {
  const queries = useQueryClient();
  const assign = useMutation({
    mutationFn: (who: string) => writeSafety.assign(me.crew_id, lists.trip_id, x.key, who || undefined),
    onSettled: () => freshGear(queries),
  });
  return (
    <select
      aria-label={`Who does: ${x.text}`}
      className="select min-h-11 w-24 text-base"
      disabled={!changes}
      value={x.who ?? ""}
      onChange={(e) => assign.mutate(e.target.value)}
    >
      <option value="">anyone</option>
      {lists.people.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  );
}

const MINUTE = 60_000;

/** The time left to the launch. */
function Launch({ at }: { at?: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), MINUTE / 4);
    return () => clearInterval(timer);
  }, []);
  if (!at) return null;
  const minutes = Math.round((new Date(at).getTime() - now) / MINUTE);
  return (
    <p className="figure-type text-xl" data-testid="launch">
      {minutes >= 0 ? `${spanOf(minutes)} to the launch` : `launched ${spanOf(-minutes)} ago`}
    </p>
  );
}

function spanOf(minutes: number): string {
  if (minutes >= 48 * 60) return `${Math.floor(minutes / (24 * 60))} days`;
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
}

function Below({ me, lists, ticks }: { me: Membership; lists: Lists; ticks: boolean }) {
  const queries = useQueryClient();
  const begin = useMutation({
    mutationFn: () => writeSafety.beginLists(me.crew_id, lists.trip_id),
    onSuccess: () => {
      freshGear(queries);
      freshUndo(queries);
    },
  });
  return (
    <div className="flex flex-wrap items-center gap-3">
      <a
        className="plain-button flex items-center"
        href={`/api/crews/${me.crew_id}/trips/${lists.trip_id}/sheets.pdf?sheet=lists`}
      >
        Print the lists
      </a>
      {lists.boat_id && (
        <Link className="plain-button flex items-center" to={`/boats/${lists.boat_id}/jobs`}>
          Something broke
        </Link>
      )}
      {ticks && (
        <button type="button" className="plain-button" disabled={begin.isPending} onClick={() => begin.mutate()}>
          Begin again
        </button>
      )}
      {begin.error && (
        <span role="alert" className="text-loud">
          {sayError(begin.error)}
        </span>
      )}
      <p className="quiet basis-full text-sm">
        Made from her gear, the trip, the rules, the road and what is due. What to do is practice. {lists.law}
      </p>
    </div>
  );
}
