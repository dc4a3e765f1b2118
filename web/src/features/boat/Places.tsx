import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useBench } from "../../api/bench";
import { answered, api, type Membership, type Place, type Post, sayError, write } from "../../api/client";
import { Choice, NumberFields, Part, RemoveButton, read, SaveForm, TextField, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { type Units, unitsOf } from "../../units";

/** The places and posts of a boat, to be added, changed and taken away. */
export function Places({ me, boat }: { me: Membership; boat: string }) {
  const bench = useBench(me.crew_id, boat);
  const [open, setOpen] = useState<string>();
  if (bench.isPending) return <Waiting text="Opening the lockers…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  const { places, posts } = bench.data;
  return (
    <>
      <Part title={`Places, ${places.length}`}>
        <ul>
          {places.map((q) => (
            <li key={q.id} className="hairline-b py-1.5">
              <div className="flex items-center justify-between gap-4">
                <span>
                  {q.name}
                  {q.leaves_hull_by_m > 0.001 && (
                    <span className="text-loud">
                      {" "}
                      leaves the hull by {Math.round(q.leaves_hull_by_m * 100)} cm {q.leaves_hull}
                    </span>
                  )}
                </span>
                <button
                  type="button"
                  className="plain-button"
                  aria-label={`${open === q.id ? "Close" : "Change"} ${q.name}`}
                  onClick={() => setOpen(open === q.id ? undefined : q.id)}
                >
                  {open === q.id ? "Close" : "Change"}
                </button>
              </div>
              {open === q.id && (
                <PlaceForm key={q.version} me={me} boat={boat} place={q} onSaved={() => setOpen(undefined)} />
              )}
            </li>
          ))}
        </ul>
        <h3 className="label-type text-lg">A new place</h3>
        <PlaceForm key={`new${places.length}`} me={me} boat={boat} onSaved={() => setOpen(undefined)} />
      </Part>
      <Part title={`Posts, where people work, ${posts.length}`}>
        <ul>
          {posts.map((q) => (
            <PostRow key={q.id} me={me} boat={boat} post={q} />
          ))}
        </ul>
        <PostForm key={`new${posts.length}`} me={me} boat={boat} />
      </Part>
    </>
  );
}

const DRYNESS = [
  ["dry", "stays dry inside"],
  ["wet", "gets wet"],
] as const;

function placeFields(units: Units) {
  const side = (key: string, label: string, hint?: string) => ({
    key,
    label,
    unit: units.sideUnit,
    si: units.sideSI,
    hint,
  });
  return [
    side("x", "Aft edge, from the transom"),
    side("y", "Starboard edge, from the middle", "to port +, to starboard −"),
    side("z", "Floor, over the keel"),
    side("length", "Length inside"),
    side("breadth", "Breadth inside"),
    side("height", "Height inside"),
    side("opening_x", "Opening, along", "0 where the whole top opens"),
    side("opening_y", "Opening, across"),
    { key: "max_kg", label: "Carries at most", unit: units.massUnit, si: units.massSI, hint: "0 for no limit" },
  ];
}

function PlaceForm({ me, boat, place, onSaved }: { me: Membership; boat: string; place?: Place; onSaved: () => void }) {
  const queries = useQueryClient();
  const fields = placeFields(unitsOf(me.units));
  const [name, setName] = useState(place?.name ?? "");
  const [dryness, setDryness] = useState<Place["dryness"]>(place?.dryness ?? "dry");
  const [values, setValues] = useState(
    place
      ? typed(fields, {
          x: place.corner_m[0],
          y: place.corner_m[1],
          z: place.corner_m[2],
          length: place.size_m[0],
          breadth: place.size_m[1],
          height: place.size_m[2],
          opening_x: place.opening_m[0],
          opening_y: place.opening_m[1],
          max_kg: place.max_kg,
        })
      : { opening_x: "0", opening_y: "0", max_kg: "0" },
  );
  const crew = me.crew_id;
  const fresh = () => {
    queries.invalidateQueries({ queryKey: ["bench", boat] });
    onSaved();
  };
  const save = async () => {
    const n = read(fields, values);
    const at = (key: string) => n[key] ?? 0;
    const body = {
      name,
      dryness,
      corner_m: [at("x"), at("y"), at("z")] as Place["corner_m"],
      size_m: [at("length"), at("breadth"), at("height")] as Place["size_m"],
      opening_m: [at("opening_x"), at("opening_y")] as Place["opening_m"],
      max_kg: at("max_kg"),
    };
    return write((key) => {
      const header = { "Idempotency-Key": key };
      return place
        ? api.PUT("/api/crews/{crew}/boats/{boat}/places/{place}", {
            params: { path: { crew, boat, place: place.id }, header },
            body: { ...body, version: place.version },
          })
        : api.POST("/api/crews/{crew}/boats/{boat}/places", { params: { path: { crew, boat }, header }, body });
    });
  };
  return (
    <SaveForm
      name={place ? `Change ${place.name}` : "A new place"}
      button={place ? "Save" : "Add the place"}
      save={save}
      onSaved={fresh}
      extra={
        place && (
          <RemoveButton
            text="Remove"
            name={place.name}
            remove={() =>
              answered(
                api.DELETE("/api/crews/{crew}/boats/{boat}/places/{place}", {
                  params: { path: { crew, boat, place: place.id } },
                }),
              )
            }
            onRemoved={fresh}
          />
        )
      }
    >
      <div className="grid grid-cols-2 gap-4 lg:grid-cols-4">
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Water" value={dryness} options={DRYNESS} onChange={setDryness} />
      </div>
      <NumberFields fields={fields} values={values} onChange={setValues} />
    </SaveForm>
  );
}

function PostRow({ me, boat, post }: { me: Membership; boat: string; post: Post }) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, boat, post: post.id };
  return (
    <li className="hairline-b flex items-center justify-between gap-4 py-1.5">
      <span>{post.name}</span>
      <RemoveButton
        text="Remove"
        name={post.name}
        remove={() => answered(api.DELETE("/api/crews/{crew}/boats/{boat}/posts/{post}", { params: { path } }))}
        onRemoved={() => queries.invalidateQueries({ queryKey: ["bench", boat] })}
      />
    </li>
  );
}

function PostForm({ me, boat }: { me: Membership; boat: string }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const side = (key: string, label: string) => ({ key, label, unit: units.sideUnit, si: units.sideSI });
  const fields = [
    side("x", "From the transom"),
    side("y", "From the middle, to port +"),
    side("z", "Sole, over the keel"),
  ];
  const [name, setName] = useState("");
  const [values, setValues] = useState<Record<string, string>>({});
  const save = async () => {
    const n = read(fields, values);
    return write((key) =>
      api.POST("/api/crews/{crew}/boats/{boat}/posts", {
        params: { path: { crew: me.crew_id, boat }, header: { "Idempotency-Key": key } },
        body: { name, at_m: [n.x ?? 0, n.y ?? 0, n.z ?? 0] },
      }),
    );
  };
  return (
    <SaveForm
      name="A new post"
      button="Add the post"
      save={save}
      onSaved={() => queries.invalidateQueries({ queryKey: ["bench", boat] })}
    >
      <div className="max-w-xs">
        <TextField label="A new post's name" value={name} onChange={setName} />
      </div>
      <NumberFields fields={fields} values={values} onChange={setValues} />
    </SaveForm>
  );
}
