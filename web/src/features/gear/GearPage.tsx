import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useBench } from "../../api/bench";
import { answered, api, type Bench, type Gear, type Membership, sayError, write } from "../../api/client";
import { Choice, KNOWN, NumberFields, Page, Part, RemoveButton, read, SaveForm, TextField, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { unitsOf } from "../../units";

export default function GearPage({ me }: { me: Membership }) {
  const boat = me.boats[0]?.id ?? "";
  const bench = useBench(me.crew_id, boat);
  if (!boat) return <ErrorNote text="Set up a boat first; then there is something to stow gear in." />;
  if (bench.isPending) return <Waiting text="Counting the gear…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  return <GearList me={me} bench={bench.data} />;
}

function GearList({ me, bench }: { me: Membership; bench: Bench }) {
  const units = unitsOf(me.units);
  const [open, setOpen] = useState<string>();
  const may = me.can.includes("change gear");
  const kg = bench.gear.reduce((sum, g) => sum + g.kg * g.count, 0);
  const guessed = bench.gear.filter((g) => g.mass_known === "guess").length;
  const where = (g: Gear) => {
    const at = bench.state.stowage.find((s) => s.gear_id === g.id);
    return bench.places.find((q) => q.id === at?.place_id)?.name ?? at?.boat ?? "the quay";
  };
  return (
    <Page
      title="Gear"
      intro={`${bench.gear.length} entries, ${units.mass(kg)} ${units.massUnit} in all; ${guessed} were never weighed.`}
    >
      {may && (
        <Part title="Add gear">
          <GearForm key={`new${bench.gear.length}`} me={me} bench={bench} onSaved={() => setOpen(undefined)} />
        </Part>
      )}
      <Part title="The list">
        <ul>
          {bench.gear.map((g) => (
            <li key={g.id} className="hairline-b py-1.5">
              <div className="flex flex-wrap items-center justify-between gap-x-4">
                <span className="min-w-48 flex-1">
                  {g.name}
                  {g.count > 1 ? ` × ${g.count}` : ""}{" "}
                  <span className="quiet">{bench.members.find((m) => m.id === g.owner_id)?.mark}</span>
                </span>
                <span className="figure-type w-40">
                  {g.size_m.map(units.side).join(" × ")} {units.sideUnit}
                </span>
                <span className="figure-type w-24">
                  {units.mass(g.kg * g.count, 1)} {units.massUnit}
                  {g.mass_known === "guess" ? " ?" : ""}
                </span>
                <span className="w-44">{where(g)}</span>
                {may && (
                  <button
                    type="button"
                    className="plain-button"
                    aria-expanded={open === g.id}
                    aria-label={`${open === g.id ? "Close" : "Change"} ${g.name}`}
                    onClick={() => setOpen(open === g.id ? undefined : g.id)}
                  >
                    {open === g.id ? "Close" : "Change"}
                  </button>
                )}
              </div>
              {open === g.id && <GearForm me={me} bench={bench} gear={g} onSaved={() => setOpen(undefined)} />}
            </li>
          ))}
        </ul>
      </Part>
    </Page>
  );
}

const TURNS = [
  ["any", "may lie on any side"],
  ["upright", "stays upright"],
  ["none", "lies as it is"],
] as const;

const WET = [
  ["wet", "may get wet"],
  ["dry", "must stay dry"],
] as const;

function GearForm({ me, bench, gear, onSaved }: { me: Membership; bench: Bench; gear?: Gear; onSaved: () => void }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const side = (key: string, label: string) => ({ key, label, unit: units.sideUnit, si: units.sideSI });
  const fields = [
    side("x", "Along the boat"),
    side("y", "Across"),
    side("z", "High"),
    { key: "kg", label: "Mass of one", unit: units.massUnit, si: units.massSI },
    { key: "count", label: "How many, kept together", unit: "", si: 1 },
  ];
  const [values, setValues] = useState(
    gear
      ? typed(fields, { x: gear.size_m[0], y: gear.size_m[1], z: gear.size_m[2], kg: gear.kg, count: gear.count })
      : { count: "1" },
  );
  const [name, setName] = useState(gear?.name ?? "");
  const [known, setKnown] = useState<Gear["mass_known"]>(gear?.mass_known ?? "weighed");
  const [turn, setTurn] = useState<Gear["turn"]>(gear?.turn ?? "any");
  const [wet, setWet] = useState<"wet" | "dry">(gear?.needs_dry ? "dry" : "wet");
  const [owner, setOwner] = useState(gear?.owner_id ?? "");
  const crew = me.crew_id;
  const fresh = () => {
    queries.invalidateQueries({ queryKey: ["bench"] });
    onSaved();
  };
  const save = () => {
    const n = read(fields, values);
    const body = {
      name,
      size_m: [n.x ?? 0, n.y ?? 0, n.z ?? 0] as [number, number, number],
      kg: n.kg ?? 0,
      count: n.count ?? 0,
      mass_known: known,
      turn,
      needs_dry: wet === "dry",
      ...(owner ? { owner_id: owner } : {}),
    };
    return write((key) =>
      gear
        ? api.PUT("/api/crews/{crew}/gear/{gear}", {
            params: { path: { crew, gear: gear.id }, header: { "Idempotency-Key": key } },
            body: { ...body, version: gear.version },
          })
        : api.POST("/api/crews/{crew}/gear", { params: { path: { crew }, header: { "Idempotency-Key": key } }, body }),
    );
  };
  const owners = [["", "the crew's"], ...bench.members.map((m) => [m.id, m.name] as const)] as (readonly [
    string,
    string,
  ])[];
  return (
    <SaveForm
      name={gear ? `Change ${gear.name}` : "Add gear"}
      button={gear ? "Save" : "Add to the quay"}
      onSaved={fresh}
      save={async () => save()}
      extra={
        gear && (
          <RemoveButton
            text="Take off the list"
            name={gear.name}
            remove={() =>
              answered(api.DELETE("/api/crews/{crew}/gear/{gear}", { params: { path: { crew, gear: gear.id } } }))
            }
            onRemoved={fresh}
          />
        )
      }
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-5">
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Whose" value={owner} options={owners} onChange={setOwner} />
        <Choice label="The mass is" value={known} options={KNOWN} onChange={setKnown} />
        <Choice label="Turning" value={turn} options={TURNS} onChange={setTurn} />
        <Choice label="Water" value={wet} options={WET} onChange={setWet} />
      </div>
      <NumberFields fields={fields} values={values} onChange={setValues} />
    </SaveForm>
  );
}
