import { useQueryClient } from "@tanstack/react-query";
import { ask, freshGear } from "../../api/ask";
import { api, type Membership, type Trip } from "../../api/client";
import { WORDS } from "../../domain/words.gen";
import { Choice, Loose, NumberFields, read, SaveForm, TextField, typed } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";

/** Days, boat, water and how many: what a trip begins with. */
export function TripForm({ me, trip }: { me: Membership; trip?: Trip }) {
  const queries = useQueryClient();
  const fields = [
    { key: "persons", label: "People", unit: "", si: 1 },
    { key: "rods", label: "Rods", unit: "", si: 1 },
    { key: "hours", label: "Hours of running", unit: "h", si: 1 },
  ];
  const scope = `${me.crew_id}.trip.${trip?.id ?? "new"}`;
  const [values, setValues] = useDraft(
    `${scope}.values`,
    typed(fields, { persons: trip?.persons ?? 2, rods: trip?.rods ?? 4, hours: trip?.hours ?? 3 }),
  );
  const [name, setName] = useDraft(`${scope}.name`, trip?.name ?? "");
  const [water, setWater] = useDraft(`${scope}.water`, trip?.water ?? "");
  const [kind, setKind] = useDraft<NonNullable<Trip["kind"]>>(`${scope}.kind`, trip?.kind ?? "day");
  const [boat, setBoat] = useDraft(`${scope}.boat`, trip?.boat_id ?? me.boats[0]?.id ?? "");
  const [first, setFirst] = useDraft(`${scope}.first`, trip?.starts_on ?? "");
  const [last, setLast] = useDraft(`${scope}.last`, trip?.ends_on ?? "");
  const path = { crew: me.crew_id };
  const save = async () => {
    const n = read(fields, values);
    const body = {
      name,
      kind,
      water,
      starts_on: first,
      ends_on: last || first,
      persons: Math.round(n.persons ?? 0),
      rods: Math.round(n.rods ?? 0),
      hours: n.hours ?? 0,
      ...(boat ? { boat_id: boat } : {}),
    };
    return trip
      ? api.put("/api/crews/{crew}/trips/{trip}", {
          params: { path: { ...path, trip: trip.id } },
          body: { ...body, version: trip.version },
        })
      : api.post("/api/crews/{crew}/trips", { params: { path }, body });
  };
  return (
    <SaveForm
      draft={scope}
      name={trip ? `Change ${trip.name}` : "Add a trip"}
      button={trip ? "Save" : "Add the trip"}
      save={save}
      onSaved={() => {
        queries.invalidateQueries({ queryKey: ask.session().queryKey });
        freshGear(queries);
      }}
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-6">
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Kind of day" value={kind} options={WORDS.trip_kinds} onChange={setKind} />
        <Loose label="Water" value={water} onChange={setWater} />
        <Choice
          label="Boat"
          value={boat}
          options={[["", "none yet"], ...me.boats.map((b) => [b.id, b.name] as const)]}
          onChange={setBoat}
        />
        <TextField label="First day" type="date" value={first} onChange={setFirst} />
        <Loose label="Last day" type="date" value={last} onChange={setLast} />
      </div>
      <NumberFields fields={fields} values={values} onChange={setValues} />
    </SaveForm>
  );
}
