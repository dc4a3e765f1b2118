import { useQuery } from "@tanstack/react-query";
import { Check, Plus, X } from "lucide-react";
import { useLocation, useParams } from "react-router";
import { ask } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { type Member, type Membership, newKey, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Figure } from "../../ui/Figure";
import { Choice, Loose, Page, Part, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";
import { TripForm } from "./TripForm";
import { type TripPage, useTrip } from "./useTrip";

type Person = Schemas["TripPerson"];

/** Boat and day, who comes and where they are aboard, and what for. */
export default function WhoPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const t = useTrip(me, trip);
  const refused = (useLocation().state as { refused?: string[] } | null)?.refused ?? [];
  useTitle(t.page.data && `Who and what, ${t.page.data.name}`);
  if (t.page.isPending) return <Waiting text="Looking at the trip…" />;
  if (t.page.isError) return <ErrorNote text={sayError(t.page.error)} onRetry={() => t.page.refetch()} />;
  const p = t.page.data;
  const changes = may(me, "change_gear") && !p.logged;
  return (
    <Page title={p.name}>
      {refused.length > 0 && (
        <ul aria-label="Promised elsewhere" className="text-loud leading-snug">
          {refused.map((r) => (
            <li key={r}>{r}</li>
          ))}
        </ul>
      )}
      <People key={`${trip} ${p.boat_id}`} me={me} page={p} save={t.savePeople} done={t.fresh} may={changes} />
      <Kits me={me} page={p} t={t} may={changes} />
      {changes && (
        <Part title="Boat and day">
          <TripForm me={me} trip={p} />
        </Part>
      )}
    </Page>
  );
}

type PeopleProps = {
  me: Membership;
  page: TripPage;
  save: (people: Person[], version: number) => Promise<unknown>;
  done: () => void;
  may: boolean;
};

function People({ me, page, save, done, may: changes }: PeopleProps) {
  const members = useQuery(ask.members(me.crew_id));
  const units = unitsOf(me.units);
  const scope = `${me.crew_id}.people.${page.id}`;
  const [people, setPeople] = useDraft<Person[]>(`${scope}.list`, page.people);
  const put = (id: string, change: Partial<Person>) =>
    setPeople(people.map((q) => (q.id === id ? { ...q, ...change } : q)));
  const add = (q: Omit<Person, "id" | "role">) =>
    setPeople([...people, { id: newKey(), role: people.some((x) => x.role === "skipper") ? "crew" : "skipper", ...q }]);
  const ashore = (members.data ?? []).filter((m) => !people.some((q) => q.member_id === m.id));
  const posts = [["", "as it comes"], ...page.posts.map((q) => [q.id, q.name] as const)] as [string, string][];
  const fields = (
    <>
      {people.length === 0 && (
        <p className="quiet">
          Nobody named yet: the figures take {howMany(page.persons, "person", "people")} of a usual mass. Press who
          comes.
        </p>
      )}
      {people.map((q) => (
        <fieldset
          key={q.id}
          className="relative grid grid-cols-2 gap-x-4 gap-y-2 border border-(--hair) p-3 sm:grid-cols-[minmax(0,1.4fr)_7rem_1fr_1fr_1fr]"
          disabled={!changes}
        >
          <legend className="label-type px-1 text-lg">{q.name || "somebody"}</legend>
          {q.member_id ? (
            <p className="quiet self-center">of the crew{q.kg > 0 ? `, ${units.mass(q.kg)} ${units.massUnit}` : ""}</p>
          ) : (
            <Loose label="Name" value={q.name} onChange={(name) => put(q.id, { name })} required />
          )}
          {q.member_id ? (
            <span className="hidden sm:block" />
          ) : (
            <Figure
              label="Mass, dressed"
              unit={units.massUnit}
              value={Number((q.kg / units.massSI).toFixed(1))}
              onChange={(v) => put(q.id, { kg: v * units.massSI })}
            />
          )}
          {(q.role === "child" || q.age !== undefined) && (
            <Figure label="Age" unit="years" value={q.age ?? 0} onChange={(v) => put(q.id, { age: v || undefined })} />
          )}
          <Choice label="Role" value={q.role} options={WORDS.trip_roles} onChange={(role) => put(q.id, { role })} />
          <div className="col-span-2 sm:col-span-1">
            <Choice
              label="Sits"
              value={q.sits ?? ""}
              options={posts}
              onChange={(v) => put(q.id, { sits: v || undefined })}
            />
          </div>
          <div className="col-span-2 sm:col-span-1">
            <Choice
              label="Fishes"
              value={q.fishes ?? ""}
              options={[["", "where they sit"], ...posts.slice(1)]}
              onChange={(v) => put(q.id, { fishes: v || undefined })}
            />
          </div>
          {changes && (
            <button
              type="button"
              aria-label={`Stays ashore: ${q.name}`}
              className="absolute -top-3 right-0 grid size-11 cursor-pointer place-items-center"
              onClick={() => setPeople(people.filter((x) => x.id !== q.id))}
            >
              <X size={16} aria-hidden="true" />
            </button>
          )}
        </fieldset>
      ))}
      {changes && (
        <div className="flex flex-wrap gap-2">
          {ashore.map((m: Member) => (
            <button
              key={m.id}
              type="button"
              className="plain-button flex items-center gap-1.5"
              onClick={() => add({ member_id: m.id, name: m.name, kg: m.kg ?? 85 })}
            >
              <Plus size={16} aria-hidden="true" /> {m.name}
            </button>
          ))}
          <button
            type="button"
            className="plain-button flex items-center gap-1.5"
            onClick={() => add({ name: `guest ${people.length + 1}`, kg: 85 })}
          >
            <Plus size={16} aria-hidden="true" /> Somebody else
          </button>
        </div>
      )}
    </>
  );
  return (
    <Part title="Who comes">
      {changes ? (
        <SaveForm
          name="Who comes"
          draft={scope}
          button="Keep who comes"
          save={() => save(people, page.version)}
          onSaved={done}
        >
          {fields}
        </SaveForm>
      ) : (
        <div className="grid gap-3">{fields}</div>
      )}
    </Part>
  );
}

type KitsProps = { me: Membership; page: TripPage; t: ReturnType<typeof useTrip>; may: boolean };

function Kits({ me, page, t, may: changes }: KitsProps) {
  const kits = useQuery(askGear.kits(me.crew_id));
  const taken = new Set(page.kits.map((k) => k.id));
  const error = t.takeKit.error ?? t.dropKit.error;
  return (
    <Part title="What for">
      {error && (
        <p role="alert" className="text-loud">
          {sayError(error)}
        </p>
      )}
      {(t.takeKit.data?.refused ?? []).map((r) => (
        <p key={r} className="text-loud leading-snug">
          {r}
        </p>
      ))}
      {page.kits.map((k) => (
        <section
          key={k.id}
          aria-label={k.name}
          className="grid grid-cols-[minmax(0,1fr)_auto] border border-base-content bg-base-200 px-3 py-1"
        >
          <div className="self-center">
            <p className="label-type flex items-center gap-1.5 text-lg">
              <Check size={16} aria-hidden="true" /> {k.name}
              <span className={`text-base ${k.missing ? "text-loud" : "quiet"}`}>
                {k.missing ? `${k.missing} missing` : "all at hand"}
              </span>
            </p>
            {k.found.map(
              (f, i) =>
                f.missing > 0 && (
                  <p key={k.lines[i]?.what} className="text-sm leading-snug">
                    {k.lines[i]?.what}: {f.missing} of {f.wanted}. {f.because.join(" ")}
                  </p>
                ),
            )}
          </div>
          {changes && (
            <button
              type="button"
              aria-label={`Not for this: ${k.name}`}
              className="grid size-11 cursor-pointer place-items-center"
              onClick={() => t.dropKit.mutate(k.id)}
            >
              <X size={18} aria-hidden="true" />
            </button>
          )}
        </section>
      ))}
      {changes && (
        <div className="flex flex-wrap gap-2">
          {(kits.data ?? [])
            .filter((k) => !taken.has(k.id))
            .map((k) => (
              <button
                key={k.id}
                type="button"
                className="plain-button flex items-center gap-1.5"
                disabled={t.takeKit.isPending}
                onClick={() => t.takeKit.mutate(k.id)}
              >
                <Plus size={16} aria-hidden="true" /> {k.name}
              </button>
            ))}
        </div>
      )}
    </Part>
  );
}
