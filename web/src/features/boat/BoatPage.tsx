import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answered, api, type Membership, type Schemas, sayError, write } from "../../api/client";
import { Choice, NumberFields, Page, Part, read, SaveForm, TextField, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { unitsOf } from "../../units";
import { freshBoat, hullFields, loadFields, numbersOf, withNumbers } from "./boatForm";
import { Places } from "./Places";

type BoatView = Schemas["BoatView"];

export default function BoatPage({ me }: { me: Membership }) {
  const { boat } = useParams();
  const known = useQuery({
    queryKey: ["boat", boat],
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/crews/{crew}/boats/{boat}", { params: { path: { crew: me.crew_id, boat: boat ?? "" } }, signal }),
      ) as Promise<BoatView>,
    enabled: boat !== undefined,
  });
  if (boat && known.isPending) return <Waiting text="Reading the boat…" />;
  if (boat && known.isError) return <ErrorNote text={sayError(known.error)} onRetry={() => known.refetch()} />;
  if (!me.can.includes("change boats, places, posts and limits")) {
    return <ErrorNote text="Setting up a boat is for an owner or a skipper of the crew." />;
  }
  return (
    <Page
      title={known.data ? `Set up ${known.data.name}` : "A new boat"}
      intro="Measure with a tape, in the order a person walks round her. Lengths forward count from the foot of the transom, heights from the lowest point of the keel."
    >
      <BoatForm key={`${boat}.${known.data?.version}`} me={me} boat={known.data} />
      {known.data && <Places me={me} boat={known.data.id} />}
      {known.data && (
        <Part title="Another boat">
          <a className="underline" href="/boats/new">
            Add another boat to the crew
          </a>
        </Part>
      )}
    </Page>
  );
}

const WATERS = [
  ["1025", "salt"],
  ["999", "fresh"],
] as const;

function BoatForm({ me, boat }: { me: Membership; boat?: BoatView }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const units = unitsOf(me.units);
  const start = boat ?? freshBoat();
  const hull = hullFields(units);
  const load = loadFields(units);
  const all = [...hull, ...load];
  const [name, setName] = useState(start.name);
  const [water, setWater] = useState(start.water_density_kg_m3 > 1010 ? "1025" : "999");
  const [values, setValues] = useState(typed(all, numbersOf(start)));
  const crew = me.crew_id;
  const save = async () => {
    const body = withNumbers(
      { ...start, name, water_density_kg_m3: Number(water) },
      read(start.hull.chine ? all : load, values),
    );
    const saved = await write((key) =>
      boat
        ? api.PUT("/api/crews/{crew}/boats/{boat}", {
            params: { path: { crew, boat: boat.id }, header: { "Idempotency-Key": key } },
            body: { ...body, version: boat.version },
          })
        : api.POST("/api/crews/{crew}/boats", { params: { path: { crew }, header: { "Idempotency-Key": key } }, body }),
    );
    await queries.invalidateQueries();
    if (!boat) navigate(`/boats/${saved.id}/setup`);
  };
  return (
    <SaveForm name="The boat" button={boat ? "Save the boat" : "Add the boat"} save={save}>
      <div className="grid grid-cols-2 gap-4 sm:grid-cols-4">
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Water she floats in" value={water} options={WATERS} onChange={setWater} />
      </div>
      {start.hull.chine ? (
        <Part title="Hull, with a tape">
          <NumberFields fields={hull} values={values} onChange={setValues} />
        </Part>
      ) : (
        <p>
          Her hull was entered by {start.hull.stations?.length} stations; change it through the interface that brought
          them.
        </p>
      )}
      <Part title="Mass, plate and limits">
        <NumberFields fields={load} values={values} onChange={setValues} />
        <p className="quiet text-sm">
          The plate and the law where you are decide; these figures help to keep within them. Still-water freeboard is
          not a seaworthiness test.
        </p>
      </Part>
    </SaveForm>
  );
}
