import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { freshGear, freshUndo } from "../../api/ask";
import { askTrip, writeTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { clock, span } from "../../domain/clock";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { Choice, Loose, Page, Part, readOne, SaveForm } from "../../ui/Form";
import { type Column, Rows, rowOf, valuesOf } from "../../ui/Rows";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

type View = Schemas["CatchView"];

/** What was caught on a trip: what counts, which goes back, and where it lies. */
export default function CatchPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const view = useQuery(askTrip.caught(me.crew_id, trip));
  useTitle("Catch");
  if (view.isPending) return <Waiting text="Looking at the catch…" />;
  if (view.isError) return <ErrorNote text={sayError(view.error)} onRetry={() => view.refetch()} />;
  return <Caught me={me} trip={trip} view={view.data} />;
}

function Caught({ me, trip, view }: { me: Membership; trip: string; view: View }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const show = (next: View) => {
    queries.setQueryData(askTrip.caught(me.crew_id, trip).queryKey, next);
    queries.invalidateQueries({ queryKey: ["bench"] });
  };
  const back = useMutation({
    mutationFn: ({ fish, on }: { fish: string; on: boolean }) => writeTrip.back(me.crew_id, trip, fish, on),
    onSuccess: show,
  });
  const remove = useMutation({
    mutationFn: (fish: string) => writeTrip.noFish(me.crew_id, trip, fish),
    onSuccess: () => {
      freshGear(queries);
      freshUndo(queries);
    },
  });
  const changes = may(me, "move");
  const aboard = view.fish.filter((f) => !f.back).length;
  const error = back.error ?? remove.error;
  return (
    <Page title={aboard === 0 ? "Nothing caught yet" : `${weight(view.kept_kg, units)}${best(view, aboard)}`}>
      <div className="grid gap-1">
        {view.goes && (
          <p role="status" className="text-loud text-xl leading-tight" data-testid="goes-back">
            {view.goes}
          </p>
        )}
        {view.until_min !== undefined && (
          <p>
            {view.until} at {clock(view.until_min)}
            {left(view)}.
          </p>
        )}
        {view.ice && <p className="quiet">{view.ice}</p>}
      </div>
      {changes && <AddFish me={me} trip={trip} view={view} units={units} onAdded={show} />}
      {error && (
        <p role="alert" className="text-loud">
          {sayError(error)}
        </p>
      )}
      <ul aria-label="Fish">
        {view.fish.map((f) => (
          <li key={f.id} className="hairline-b grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-2">
            <span className={`py-1 leading-tight ${f.back ? "quiet line-through" : ""}`}>
              <span className="figure-type text-xl">{weight(f.kg, units)}</span> {f.species}
              {f.tag ? `, tag ${f.tag}` : ""}
              <span className="quiet text-sm">
                {" "}
                {[
                  f.length_m ? `${units.side(f.length_m)} ${units.sideUnit}` : "",
                  f.weighed ? "weighed" : "by its length",
                  f.back ? "went back" : f.in,
                  f.counts || f.back ? "" : "does not count",
                ]
                  .filter(Boolean)
                  .join(", ")}
              </span>
            </span>
            {changes && (
              <>
                <button
                  type="button"
                  className="plain-button"
                  aria-label={`${f.back ? "It is aboard" : "Goes back"}: ${f.species} ${weight(f.kg, units)}`}
                  onClick={() => back.mutate({ fish: f.id, on: !f.back })}
                >
                  {f.back ? "Aboard" : "Goes back"}
                </button>
                <button
                  type="button"
                  className="grid size-11 cursor-pointer place-items-center"
                  aria-label={`Noted by mistake: ${f.species} ${weight(f.kg, units)}`}
                  onClick={() => remove.mutate(f.id)}
                >
                  <X size={18} aria-hidden="true" />
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
      {view.holds.length > 0 && (
        <Part title="How long a fish each takes">
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {view.holds.map((h) => (
              <li key={h.name} className="hairline-b flex justify-between py-1">
                <span>{h.name}</span>
                <span className="figure-type text-lg">
                  {units.side(h.longest_m)} {units.sideUnit}
                </span>
              </li>
            ))}
          </ul>
          <p className="quiet text-sm">From corner to corner inside; a thick fish takes less.</p>
        </Part>
      )}
      {may(me, "change_gear") && <Table me={me} view={view} />}
    </Page>
  );
}

/** How long it is until the weigh-in, on its day. */
function left(view: View): string {
  const now = new Date();
  const minutes = (view.until_min ?? 0) - (now.getTime() - new Date(`${view.starts_on}T00:00:00`).getTime()) / 60_000;
  return minutes > 0 && minutes < 24 * 60 ? `, ${span(minutes / 60)} left` : "";
}

/** A fish to ten grams, or to a hundredth of a pound. */
function weight(kg: number, units: Units): string {
  return `${units.mass(kg, 2)} ${units.massUnit}`;
}

function best(view: View, aboard: number): string {
  if (!view.best_of) return ` aboard, ${aboard} fish`;
  return `, the best ${Math.min(view.best_of, aboard)} of ${view.best_of}`;
}

type AddProps = { me: Membership; trip: string; view: View; units: Units; onAdded: (v: View) => void };

function AddFish({ me, trip, view, units, onAdded }: AddProps) {
  const scope = `${me.crew_id}.fish.${trip}`;
  const [species, setSpecies] = useDraft(`${scope}.species`, view.species[0]?.name ?? "");
  const [into, setInto] = useDraft(`${scope}.into`, "");
  const [length, setLength] = useState("");
  const [kg, setKg] = useState("");
  const [tag, setTag] = useState("");
  const side = { unit: units.sideUnit, si: units.sideSI };
  const mass = { unit: units.massUnit, si: units.massSI };
  const add = useMutation({
    mutationFn: () =>
      writeTrip.fish(me.crew_id, trip, {
        species,
        ...(readOne(side, length) ? { length_m: readOne(side, length) } : {}),
        ...(readOne(mass, kg) ? { kg: readOne(mass, kg) } : {}),
        ...(Number(tag) ? { tag: Number(tag) } : {}),
        ...(into ? { place_id: into } : {}),
      }),
    onSuccess: (next) => {
      setLength("");
      setKg("");
      setTag("");
      onAdded(next);
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  return (
    <form
      aria-label="A fish"
      className="grid grid-cols-2 items-end gap-x-4 gap-y-2 border border-base-content p-3 sm:grid-cols-6"
      onSubmit={submit}
    >
      <Choice
        label="Fish"
        value={species}
        options={view.species.map((s) => [s.name, s.name] as const)}
        onChange={setSpecies}
      />
      <Loose label="Length" unit={side.unit} value={length} onChange={setLength} />
      <Loose label="or weighed" unit={mass.unit} value={kg} onChange={setKg} />
      <Loose label="Tag" value={tag} onChange={setTag} />
      <Choice
        label="Goes into"
        value={into}
        options={[["", "the livewell"], ...view.places.map((p) => [p.id, p.name] as const)]}
        onChange={setInto}
      />
      <button type="submit" className="main-button" disabled={add.isPending}>
        Note it
      </button>
      {add.error && (
        <p role="alert" className="text-loud col-span-full">
          {sayError(add.error)}
        </p>
      )}
    </form>
  );
}

const COLUMNS: Column[] = [
  { kind: "text", key: "name", label: "Fish" },
  { kind: "number", key: "a", label: "a", unit: "g", si: 1 },
  { kind: "number", key: "b", label: "b", unit: "", si: 1 },
];

/** What a fish of a length weighs: the crew's own constants. */
function Table({ me, view }: { me: Membership; view: View }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.species`;
  const [rows, setRows] = useDraft(
    `${scope}.rows`,
    view.species.map((s) => rowOf(COLUMNS, s)),
  );
  const read = () => rows.map((r) => valuesOf(COLUMNS, r) as unknown as Schemas["Species"]);
  return (
    <details className="border-(--hair) border-t pt-2">
      <summary className="label-type min-h-11 cursor-pointer py-2 text-xl">What a fish of a length weighs</summary>
      <p className="quiet pb-2 text-sm">
        Grams are a times the centimetres to the power of b.{" "}
        {view.own ? "The crew's own table." : "From memory of published tables: put in what fits your water."}
      </p>
      <SaveForm
        name="What a fish of a length weighs"
        draft={scope}
        button="Keep the table"
        save={() => writeTrip.species(me.crew_id, read())}
        onSaved={() => freshGear(queries)}
      >
        <Rows
          name="a fish"
          columns={COLUMNS}
          rows={rows}
          fresh={rowOf(COLUMNS, { name: "", a: 0.01, b: 3 })}
          onChange={setRows}
        />
      </SaveForm>
    </details>
  );
}
