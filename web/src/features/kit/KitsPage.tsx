import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { askTrip } from "../../api/askTrip";
import { api, type Kit, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { GearPick } from "../../parts/GearPick";
import { Choice, Page, Part, RemoveButton, SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Faults, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

type Line = Schemas["KitLine"];
type Answer = Schemas["KitAnswer"];

const SORTS = WORDS.kit_sorts;
const PER = WORDS.kit_per;

/** The kits, each with what it lacks. */
export default function KitsPage({ me }: { me: Membership }) {
  const { kit } = useParams();
  if (kit === "new") return <NewKit me={me} />;
  return kit ? <OneKit key={kit} me={me} id={kit} /> : <AllKits me={me} />;
}

function AllKits({ me }: { me: Membership }) {
  const kits = useQuery(askGear.kits(me.crew_id));
  const trips = useQuery(askTrip.trips(me.crew_id));
  const [params] = useSearchParams();
  const trip = trips.data?.find((t) => t.id === params.get("trip"));
  if (kits.isPending) return <Waiting text="Loading the kits…" />;
  if (kits.isError) return <ErrorNote text={sayError(kits.error)} onRetry={() => kits.refetch()} />;
  return (
    <Page
      title="Kits"
      intro={
        trip
          ? `Choose a kit to promise to ${trip.name}, ${day(trip.starts_on)}.`
          : "What a day asks for, and whether it is at hand: worked out for two people, four rods and a day."
      }
    >
      {may(me, "change_gear") && (
        <Link to="/kits/new" className="main-button flex items-center justify-self-start">
          A new kit
        </Link>
      )}
      {kits.data.length === 0 && <p>No kits yet. A kit is a list such as “zander, vertical” or “night”.</p>}
      {SORTS.map(([sort, title]) => {
        const some = kits.data.filter((k) => k.sort === sort);
        return (
          some.length > 0 && (
            <Part key={sort} title={title}>
              <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
                {some.map((k) => (
                  <li key={k.id}>
                    <Link
                      to={`/kits/${k.id}${trip ? `?trip=${trip.id}` : ""}`}
                      className="grid min-h-16 content-center border border-(--hair) px-3 py-2 hover:bg-base-200"
                    >
                      <span className="label-type text-xl leading-tight">{k.name}</span>
                      <span className={k.missing > 0 ? "text-loud" : "quiet"}>
                        {howMany(k.lines.length, "line")}, {k.missing > 0 ? `${k.missing} missing` : "all at hand"}
                      </span>
                    </Link>
                  </li>
                ))}
              </ul>
            </Part>
          )
        );
      })}
    </Page>
  );
}

function OneKit({ me, id }: { me: Membership; id: string }) {
  const [params, setParams] = useSearchParams();
  const trips = useQuery(askTrip.trips(me.crew_id));
  const ahead = (trips.data ?? []).filter((t) => !t.logged);
  const trip = params.get("trip") ?? "";
  const boat = params.get("boat") ?? me.boats[0]?.id ?? "";
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    setParams(next, { replace: true });
  };
  const number = (key: string, usual: number) => Number(params.get(key) ?? usual) || usual;
  const party = { persons: number("persons", 2), rods: number("rods", 4), days: number("days", 1) };
  const kit = useQuery(askGear.kit(me.crew_id, id, trip ? { trip } : { boat: boat || undefined, ...party }));
  useTitle(kit.data?.name);
  if (kit.isPending) return <Waiting text="Loading the kit…" />;
  if (kit.isError) return <ErrorNote text={sayError(kit.error)} onRetry={() => kit.refetch()} />;
  const k = kit.data;
  const units = unitsOf(me.units);
  const count = (key: "persons" | "rods" | "days", label: string, most: number) => (
    <Choice
      label={label}
      value={String(party[key])}
      options={Array.from({ length: most }, (_, i) => [String(i + 1), String(i + 1)] as const)}
      onChange={(v) => set(key, v)}
    />
  );
  return (
    <Page title={k.name}>
      <div className="grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-5">
        <Choice
          label="For"
          value={trip}
          options={[["", "a day out"], ...ahead.map((t) => [t.id, `${t.name}, ${day(t.starts_on)}`] as const)]}
          onChange={(v) => set("trip", v)}
        />
        {!trip && (
          <>
            <Choice
              label="With"
              value={boat}
              options={me.boats.map((b) => [b.id, b.name] as const)}
              onChange={(v) => set("boat", v)}
            />
            {count("persons", "People", 8)}
            {count("rods", "Rods", 20)}
            {count("days", "Days", 7)}
          </>
        )}
      </div>
      <p className="text-2xl leading-tight">
        {k.missing > 0 ? <b className="text-loud">{k.missing} missing.</b> : <b>Everything is available.</b>}{" "}
        <span className="quiet text-lg">
          {howMany(k.persons, "person", "people")}, {howMany(k.rods, "rod")}, {howMany(k.days, "day")}
          {k.boat ? `, ${k.boat}` : ""}; what goes weighs {units.mass(k.kg, 1)} {units.massUnit}.
        </span>
      </p>
      <ul aria-label="Lines">
        {k.found.map((f, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by where they stand
          <Found key={i} line={k.lines[i] as Line} found={f} />
        ))}
      </ul>
      {may(me, "change_gear") && (
        <>
          <TakeAlong me={me} kit={k} trip={trip} />
          <Part title="Change the kit">
            <KitForm key={k.id} me={me} kit={k} />
          </Part>
        </>
      )}
    </Page>
  );
}

function Found({ line, found }: { line: Line; found: Schemas["KitFound"] }) {
  const short = found.ready < found.wanted;
  return (
    <li className="hairline-b grid gap-x-4 py-1.5 sm:grid-cols-[14rem_5rem_1fr]">
      <span className="leading-tight">
        {line.what}
        {line.nice && <span className="quiet text-sm"> nice to have</span>}
      </span>
      <span className={`figure-type ${short && !line.nice ? "text-loud" : ""}`}>
        {found.ready} of {found.wanted}
      </span>
      <span className="leading-tight">
        {found.picks
          .filter((p) => p.state === "aboard" || p.state === "ashore")
          .map((p) => (
            <span key={p.gear_id} className="block">
              <Link className="hover:underline" to={`/gear/${p.gear_id}`}>
                {p.count > 1 ? `${p.count} × ` : ""}
                {p.name}
              </Link>
              <span className="quiet">
                {p.alternative ? ", instead" : ""}, {p.where}
              </span>
            </span>
          ))}
        {short &&
          found.because.map((b) => (
            <span key={b} className={line.nice ? "quiet block" : "text-loud block"}>
              {b}
            </span>
          ))}
      </span>
    </li>
  );
}

/** Promises what is at hand to the trip; what is promised elsewhere is said at once. */
function TakeAlong({ me, kit, trip }: { me: Membership; kit: Answer; trip: string }) {
  const queries = useQueryClient();
  const gear = kit.found.flatMap((f) => f.picks).filter((p) => ["aboard", "ashore", "promised"].includes(p.state));
  const promise = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/trips/{trip}/gear", {
        params: { path: { crew: me.crew_id, trip } },
        body: { gear: [...new Set(gear.map((p) => p.gear_id))] },
      }),
    onSuccess: () => freshGear(queries),
  });
  if (!trip || gear.length === 0) return null;
  return (
    <div className="grid gap-2">
      <button
        type="button"
        className="main-button justify-self-start"
        disabled={promise.isPending}
        onClick={() => promise.mutate()}
      >
        Promise it to the trip
      </button>
      {promise.data && (
        <p role="status">
          {promise.data.refused.length === 0 ? "Everything goes on the trip." : ""}
          {promise.data.refused.map((r) => (
            <b key={r} className="text-loud block">
              {r}
            </b>
          ))}
        </p>
      )}
      <Faults
        text={promise.error ? sayError(promise.error) : undefined}
        details={promise.error instanceof Refusal ? promise.error.details : []}
      />
    </div>
  );
}

function NewKit({ me }: { me: Membership }) {
  return (
    <Page title="A new kit">
      <KitForm me={me} />
    </Page>
  );
}

const FRESH: Line = { what: "", amount: 1, per: "boat", nice: false, choices: [] };

function KitForm({ me, kit }: { me: Membership; kit?: Kit }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const scope = `${me.crew_id}.kit.${kit?.id ?? "new"}`;
  const [name, setName] = useDraft(`${scope}.name`, kit?.name ?? "");
  const [sort, setSort] = useDraft<Kit["sort"]>(`${scope}.sort`, kit?.sort ?? "technique");
  const [lines, setLines] = useDraft<Line[]>(`${scope}.lines`, kit?.lines ?? [FRESH]);
  const put = (i: number, change: Partial<Line>) => setLines(lines.map((l, k) => (k === i ? { ...l, ...change } : l)));
  const path = { crew: me.crew_id };
  const save = async () => {
    const body = { name, sort, lines };
    const saved = await (kit
      ? api.put("/api/crews/{crew}/kits/{kit}", {
          params: { path: { ...path, kit: kit.id } },
          body: { ...body, version: kit.version },
        })
      : api.post("/api/crews/{crew}/kits", { params: { path }, body }));
    freshGear(queries);
    navigate(`/kits/${kit?.id ?? saved.id}`);
  };
  return (
    <SaveForm
      draft={scope}
      name={kit ? `Change ${kit.name}` : "A new kit"}
      button={kit ? "Save the kit" : "Add the kit"}
      save={save}
      extra={
        kit && (
          <RemoveButton
            text="Remove the kit"
            name={kit.name}
            remove={() => api.delete("/api/crews/{crew}/kits/{kit}", { params: { path: { ...path, kit: kit.id } } })}
            onRemoved={() => {
              navigate("/kits");
              freshGear(queries);
            }}
          />
        )
      }
    >
      <div className="grid grid-cols-2 gap-x-4 lg:grid-cols-4">
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Sorted" value={sort} options={SORTS} onChange={setSort} />
      </div>
      {lines.map((l, i) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by where they stand
          key={i}
          className="relative grid grid-cols-2 gap-x-3 gap-y-1 border border-(--hair) p-2 pr-12 lg:grid-cols-[1.4fr_5rem_8rem_2.4fr]"
        >
          <legend className="sr-only">{l.what || `Line ${i + 1}`}</legend>
          <TextField label="What" value={l.what} onChange={(what) => put(i, { what })} />
          <TextField
            label="How many"
            value={String(l.amount)}
            onChange={(v) => put(i, { amount: Number(v.replace(",", ".")) || 0 })}
          />
          <Choice label="for" value={l.per} options={PER} onChange={(per) => put(i, { per })} />
          <Choices me={me} line={l} onChange={(choices) => put(i, { choices })} />
          <label className="flex min-h-11 items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox"
              checked={l.nice}
              onChange={(e) => put(i, { nice: e.target.checked })}
            />
            nice to have
          </label>
          <button
            type="button"
            aria-label={`Take off: ${l.what || `line ${i + 1}`}`}
            className="absolute top-0 right-0 grid size-11 cursor-pointer place-items-center"
            onClick={() => setLines(lines.filter((_, k) => k !== i))}
          >
            <X size={16} aria-hidden="true" />
          </button>
        </fieldset>
      ))}
      <button
        type="button"
        className="plain-button flex items-center gap-1.5 justify-self-start"
        onClick={() => setLines([...lines, FRESH])}
      >
        <Plus size={16} aria-hidden="true" /> Add a line
      </button>
    </SaveForm>
  );
}

/** What answers a line: pieces or tags, the first is best. */
function Choices({ me, line, onChange }: { me: Membership; line: Line; onChange: (c: Line["choices"]) => void }) {
  const summary = useQuery(askGear.gearSummary(me.crew_id));
  const add = (c: Line["choices"][number]) => onChange([...line.choices, c]);
  return (
    <div className="col-span-2 grid content-start gap-1 lg:col-span-1">
      <span className="text-sm leading-tight">Gear that will do, best first</span>
      <div className="flex flex-wrap gap-1">
        {line.choices.map((c) => (
          <button
            key={c.gear_id ?? c.tag}
            type="button"
            aria-label={`${c.tag ? `any #${c.tag}` : (c.name ?? "gear that is gone")}: take off`}
            className="label-type flex min-h-11 cursor-pointer items-center gap-1 border border-base-content px-2"
            onClick={() => onChange(line.choices.filter((x) => x !== c))}
          >
            {c.tag ? `any #${c.tag}` : (c.name ?? "gear that is gone")} <X size={14} aria-hidden="true" />
          </button>
        ))}
        <GearPick
          me={me}
          label={`Gear or tag for ${line.what || "this line"}`}
          placeholder="gear, or a #tag"
          tags={summary.data?.tags}
          onTag={(tag) => add({ tag })}
          onPick={(h) => add({ gear_id: h.id, name: h.name })}
        />
      </div>
    </div>
  );
}
