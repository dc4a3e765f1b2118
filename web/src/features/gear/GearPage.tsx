import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { askGear, type GearFilter } from "../../api/askGear";
import { api, type GearRow, type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { Choice } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useSettled } from "../../ui/useSettled";
import { FastAdd } from "./FastAdd";
import { MoveMany } from "./MoveMany";

const ONLY = [
  ["", "everything"],
  ["unweighed", "never weighed"],
  ["containers", "boxes"],
  ["worn", "worn or broken"],
  ["expired", "out of date"],
  ["restock", "to restock"],
] as const;

/** The one list: everything the crew has, aboard any boat, ashore or lent. */
export default function GearPage({ me }: { me: Membership }) {
  const summary = useQuery(askGear.gearSummary(me.crew_id));
  const units = unitsOf(me.units);
  const mayChange = may(me, "change_gear");
  const s = summary.data;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-4 p-4 lg:p-6">
        <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
          <div className="min-w-64 flex-1">
            <h1 className="label-type text-3xl leading-tight">Gear</h1>
            {s && <p className="quiet">{s.entries === 0 ? "Nothing is listed yet." : listed(s, units)}</p>}
          </div>
        </div>
        {mayChange && <FastAdd me={me} />}
        <List me={me} units={units} tags={s?.tags ?? []} />
      </div>
    </main>
  );
}

function listed(s: Schemas["GearSummary"], units: Units): string {
  const all = `${howMany(s.entries, "entry", "entries")}, ${howMany(s.pieces, "piece")}, ${units.mass(s.kg)} ${units.massUnit}.`;
  const unweighed = s.unweighed > 0 && `${howMany(s.unweighed, "was", "were")} never weighed.`;
  return [all, whereabouts(s.kinds), unweighed].filter(Boolean).join(" ");
}

function whereabouts(kinds: Record<string, number>): string {
  const words = { boat: "aboard", shed: "ashore", quay: "on the quay", person: "with people", lent: "lent" };
  return `${Object.entries(words)
    .filter(([k]) => kinds[k])
    .map(([k, w]) => `${kinds[k]} ${w}`)
    .join(", ")}.`;
}

function useFilter(): [GearFilter, (f: GearFilter) => void] {
  const [params, setParams] = useSearchParams();
  const filter = Object.fromEntries([...params].filter(([, v]) => v !== "")) as GearFilter;
  return [
    filter,
    (f) =>
      setParams(Object.fromEntries(Object.entries(f).filter(([, v]) => v)) as Record<string, string>, {
        replace: true,
      }),
  ];
}

function List({ me, units, tags }: { me: Membership; units: Units; tags: string[] }) {
  const [filter, setFilter] = useFilter();
  const [text, setText] = useState(filter.q ?? "");
  const q = useSettled(text.trim(), 200);
  const list = useInfiniteQuery(askGear.gearList(me.crew_id, { ...filter, q: q || undefined }));
  const members = useQuery(ask.members(me.crew_id));
  const shed = useQuery(askGear.shed(me.crew_id));
  const [picked, setPicked] = useState<GearRow[]>([]);
  const [said, setSaid] = useState<string[]>([]); // of the last move
  const mayChange = may(me, "change_gear");
  const rows = list.data?.pages.flatMap((p) => p.rows) ?? [];
  const place = filter.shed ? `shed:${filter.shed}` : filter.boat ? `boat:${filter.boat}` : (filter.kind ?? "");
  const choosePlace = (v: string) => {
    const { kind: _k, boat: _b, shed: _s, place: _p, inside: _i, ...rest } = filter;
    const [sort, id] = v.split(":");
    setFilter(id ? { ...rest, [sort as "boat" | "shed"]: id } : { ...rest, kind: v as GearFilter["kind"] });
  };
  const places = [
    ["", "anywhere"],
    ["quay", "on the quay"],
    ["boat", "aboard any boat"],
    ...me.boats.map((b) => [`boat:${b.id}`, `aboard ${b.name}`] as const),
    ["shed", "ashore"],
    ...(shed.data ?? []).map((s) => [`shed:${s.id}`, `${s.site}, ${s.name}`] as const),
    ["person", "with people"],
    ["lent", "lent"],
  ] as (readonly [string, string])[];
  const toggle = (g: GearRow) => {
    setSaid([]);
    setPicked((p) => (p.some((x) => x.id === g.id) ? p.filter((x) => x.id !== g.id) : [...p, g]));
  };
  return (
    <section aria-label="The list" className="grid gap-3 border-(--hair) border-t pt-3">
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-[2fr_1.4fr_1fr_1fr_1fr_1fr]">
        <label className="col-span-2 grid content-start gap-0.5 lg:col-span-1">
          <span className="text-sm leading-tight">Filter by name</span>
          <input
            type="search"
            className="input min-h-11 w-full text-base"
            value={text}
            maxLength={200}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <Choice label="Where" value={place} options={places} onChange={choosePlace} />
        <Choice
          label="Whose"
          value={filter.owner ?? ""}
          options={[["", "anybody's"], ...(members.data ?? []).map((m) => [m.id, m.name] as const)]}
          onChange={(owner) => setFilter({ ...filter, owner: owner || undefined })}
        />
        <Choice
          label="Tag"
          value={filter.tag ?? ""}
          options={[["", "any"], ...tags.map((t) => [t, t] as const)]}
          onChange={(tag) => setFilter({ ...filter, tag: tag || undefined })}
        />
        <Choice
          label="Show"
          value={filter.only ?? ""}
          options={ONLY}
          onChange={(only) => setFilter({ ...filter, only: (only || undefined) as GearFilter["only"] })}
        />
        <Choice
          label="Order"
          value={filter.sort ?? "name"}
          options={[
            ["name", "by name"],
            ["recent", "used last"],
          ]}
          onChange={(sort) => setFilter({ ...filter, sort: sort as GearFilter["sort"] })}
        />
      </div>
      {picked.length > 0 && (
        <Many
          me={me}
          picked={rows.length > 0 ? picked.map((g) => rows.find((r) => r.id === g.id) ?? g) : picked}
          onDone={(words = []) => {
            setPicked([]);
            setSaid(words);
          }}
        />
      )}
      {said.length > 0 && (
        <p role="status" className="text-loud">
          {said.join(" ")}
        </p>
      )}
      {list.isPending && <Waiting text="Loading the gear…" />}
      {list.isError && <ErrorNote text={sayError(list.error)} onRetry={() => list.refetch()} />}
      {list.isSuccess && rows.length === 0 && (
        <p className="py-6 text-center">
          {q || Object.keys(filter).length > 0
            ? "No gear matches these filters."
            : "No gear yet. Write a first line above, or bring a table in."}
        </p>
      )}
      {mayChange && rows.length > 1 && picked.length < rows.length && (
        <button
          type="button"
          className="min-h-11 cursor-pointer justify-self-start underline"
          onClick={() => {
            setSaid([]);
            setPicked(rows);
          }}
        >
          Choose all {rows.length} {list.hasNextPage ? "shown so far" : "shown"}
        </button>
      )}
      <ul aria-label="Gear">
        {rows.map((g) => (
          <Row
            key={g.id}
            g={g}
            units={units}
            mark={members.data?.find((m) => m.id === g.owner_id)?.mark}
            picked={picked.some((x) => x.id === g.id)}
            onPick={mayChange ? () => toggle(g) : undefined}
          />
        ))}
      </ul>
      {list.hasNextPage && (
        <button
          type="button"
          className="plain-button justify-self-center"
          disabled={list.isFetchingNextPage}
          onClick={() => list.fetchNextPage()}
        >
          {list.isFetchingNextPage ? "Fetching…" : "Show more"}
        </button>
      )}
    </section>
  );
}

type RowProps = { g: GearRow; units: Units; mark?: string; picked: boolean; onPick?: () => void };

function Row({ g, units, mark, picked, onPick }: RowProps) {
  return (
    <li className={`hairline-b flex items-stretch ${picked ? "bg-base-200" : ""}`}>
      {onPick && (
        <label className="grid w-11 shrink-0 cursor-pointer place-items-center">
          <input
            type="checkbox"
            className="checkbox"
            checked={picked}
            onChange={onPick}
            aria-label={`Choose ${g.name}`}
          />
        </label>
      )}
      <Link
        to={`/gear/${g.id}`}
        className="grid min-h-12 min-w-0 flex-1 grid-cols-[1fr_auto] items-center gap-x-4 py-1 hover:bg-base-200 sm:grid-cols-[minmax(10rem,1.2fr)_9rem_6rem_minmax(10rem,1.3fr)]"
      >
        <span className="min-w-0 leading-tight">
          {g.name}
          {g.count !== 1 ? ` × ${g.count}` : ""}
          {mark && <span className="label-type quiet"> {mark}</span>}
          <States g={g} />
        </span>
        <span className="figure-type hidden sm:block">
          {g.size_m.map(units.side).join(" × ")} {units.sideUnit}
        </span>
        <span className="figure-type text-right sm:text-left">
          {units.mass(g.total_kg, 1)} {units.massUnit}
          {g.mass_known === "guess" ? " ?" : ""}
        </span>
        <span className="quiet col-span-2 min-w-0 leading-tight sm:col-span-1">{g.spot.text}</span>
      </Link>
    </li>
  );
}

/** What is not as it should be, in a word each. */
export function States({ g }: { g: GearRow }) {
  const today = new Date().toISOString().slice(0, 10);
  const words = [
    g.condition && g.condition !== "good" ? g.condition : "",
    g.expires_on && g.expires_on < today ? "out of date" : "",
    g.restock_at && g.count <= g.restock_at ? "restock" : "",
  ].filter(Boolean);
  return (
    <>
      {g.holds > 0 && <span className="quiet text-sm"> holds {g.holds}</span>}
      {words.map((w) => (
        <b key={w} className="text-loud label-type">
          {" "}
          {w}
        </b>
      ))}
    </>
  );
}

/** One change to many at once. */
function Many({ me, picked, onDone }: { me: Membership; picked: GearRow[]; onDone: (said?: string[]) => void }) {
  const queries = useQueryClient();
  const members = useQuery(ask.members(me.crew_id));
  const [tag, setTag] = useState("");
  const [moving, setMoving] = useState(false);
  const change = useMutation({
    mutationFn: (body: Omit<Schemas["BulkInput"], "gear">) =>
      api.post("/api/crews/{crew}/gear-changes", {
        params: { path: { crew: me.crew_id } },
        body: { ...body, gear: picked.map((g) => g.id) },
      }),
    onSuccess: () => {
      freshGear(queries);
      onDone();
    },
  });
  const busy = change.isPending;
  return (
    <section aria-label="Change those chosen" className="flex flex-wrap items-end gap-2 bg-base-200 p-2">
      <b className="label-type mr-2 self-center text-lg">{picked.length} chosen</b>
      <button type="button" className="plain-button" aria-expanded={moving} onClick={() => setMoving(!moving)}>
        Move…
      </button>
      <Choice
        label="Owner"
        value="-"
        options={[["-", "give to…"], ["", "the crew"], ...(members.data ?? []).map((m) => [m.id, m.name] as const)]}
        onChange={(id) => id !== "-" && change.mutate(id ? { owner_id: id } : { unowned: true })}
      />
      <label className="grid gap-0.5">
        <span className="text-sm leading-tight">Tag</span>
        <input
          className="input min-h-11 w-32 text-base"
          maxLength={40}
          value={tag}
          onChange={(e) => setTag(e.target.value)}
        />
      </label>
      <button
        type="button"
        className="plain-button"
        disabled={busy || !tag.trim()}
        onClick={() => change.mutate({ add_tag: tag })}
      >
        Add tag
      </button>
      <button
        type="button"
        className="plain-button"
        disabled={busy || !tag.trim()}
        onClick={() => change.mutate({ remove_tag: tag })}
      >
        Take tag off
      </button>
      <button type="button" className="plain-button" disabled={busy} onClick={() => change.mutate({ needs_dry: true })}>
        Keep dry
      </button>
      <Link className="plain-button flex items-center" to={`/labels?${picked.map((g) => `gear=${g.id}`).join("&")}`}>
        Labels
      </Link>
      <button type="button" className="plain-button" disabled={busy} onClick={() => change.mutate({ remove: true })}>
        Remove from the list
      </button>
      <button type="button" className="plain-button" onClick={() => onDone()}>
        Clear
      </button>
      {moving && <MoveMany me={me} picked={picked} onMoved={onDone} />}
      {change.error && (
        <p role="alert" className="text-loud w-full">
          {sayError(change.error)}
        </p>
      )}
    </section>
  );
}
