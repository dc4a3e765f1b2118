import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask } from "../../api/ask";
import { api, type Post } from "../../api/client";
import { unitsOf } from "../../domain/units";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { unplan } from "../../drawing/planInput";
import type { Projection } from "../../drawing/projection";
import { NumberFields, RemoveButton, read, SaveForm, TextField, typed } from "../../ui/Form";
import { sideField } from "../../ui/fields";
import { useDraft } from "../../ui/useDraft";
import type { StageProps } from "./SetupPage";
import { useSaveBoat } from "./useBoat";

/** Where people work or sit: pressed on the plan, or typed. */
export function PostsStage({ me, boat, frame, onDone }: StageProps) {
  const units = unitsOf(me.units);
  const queries = useQueryClient();
  const save = useSaveBoat(me, boat);
  const bench = useQuery(ask.bench(me.crew_id, boat.id));
  const side = sideField(units);
  const fields = [
    side("x", "From the transom"),
    side("y", "Off the middle", "to port +, to starboard −"),
    side("z", "Height of the sole", "keel's level to where the feet stand"),
  ];
  const sole = boat.hull.deck?.sole_m ?? 0.25;
  const scope = `${me.crew_id}.boat.${boat.id}.post.${me.units}`;
  const [name, setName] = useDraft(`${scope}.name`, "");
  const [values, setValues] = useDraft(`${scope}.values`, typed(fields, { x: 0, y: 0, z: sole }));
  const path = { crew: me.crew_id, boat: boat.id };
  const fresh = () => queries.invalidateQueries({ queryKey: ask.bench(me.crew_id, boat.id).queryKey });
  const [changing, setChanging] = useState<Post>(); // the post in hand; a new one where there is none
  const nameField = useRef<HTMLDivElement>(null);
  const begun = useRef<{ name: string; values: Record<string, string> }>(undefined); // a new one that waits
  const take = (q: Post | undefined) => {
    if (q && !changing) begun.current = { name, values };
    const back = q ? undefined : begun.current;
    setChanging(q);
    setName(q?.name ?? back?.name ?? "");
    setValues(
      back?.values ?? typed(fields, q ? { x: q.at_m[0], y: q.at_m[1], z: q.at_m[2] } : { x: 0, y: 0, z: sole }),
    );
  };
  const keep = async () => {
    const n = read(fields, values);
    const body = { name, at_m: [n.x ?? 0, n.y ?? 0, n.z ?? 0] as [number, number, number] };
    await (changing
      ? api.put("/api/crews/{crew}/boats/{boat}/posts/{post}", {
          params: { path: { ...path, post: changing.id } },
          body: { ...body, version: changing.version },
        })
      : api.post("/api/crews/{crew}/boats/{boat}/posts", { params: { path }, body }));
    if (changing) take(undefined);
    else setName("");
    await fresh();
  };
  const posts = bench.data?.posts ?? [];
  const onPlan = (p: Projection) => (e: React.PointerEvent<SVGRectElement>) => {
    const [x, y] = unplan(p, e);
    const z = values.z ?? "";
    setValues({ ...typed(fields, { x, y, z: 0 }), z });
    e.preventDefault(); // or the press takes the focus away again
    nameField.current?.querySelector("input")?.focus({ preventScroll: true });
  };
  return frame(
    <>
      <p className="quiet px-4 pt-3">Press the plan where someone stands or sits, then name the post.</p>
      {bench.data && (
        <BoatDrawing
          lines={bench.data.lines}
          name={boat.name}
          upright
          solids={bench.data.places.map((q) => ({ name: q.name, corner: q.corner_m, size: q.size_m, quiet: true }))}
          dots={[
            ...posts
              .filter((q) => q.id !== changing?.id)
              .map((q: Post) => ({ name: q.name, at: q.at_m, shape: "post" as const })),
            ...newDot(fields, values, name),
          ]}
        >
          {(p) => (
            <rect
              data-testid="plan-area"
              x={0}
              y={p.planTop - 8}
              width={p.width}
              height={p.profileTop - p.planTop - 20}
              fill="transparent"
              className="cursor-crosshair"
              onPointerDown={onPlan(p)}
            />
          )}
        </BoatDrawing>
      )}
    </>,
    <div className="grid gap-4">
      <SaveForm
        draft={scope}
        key={changing?.id ?? "new"}
        name={changing ? `Change ${changing.name}` : "A new post"}
        button={changing ? "Save" : "Add the post"}
        save={keep}
        extra={
          changing && (
            <button type="button" className="plain-button" onClick={() => take(undefined)}>
              Leave it as it was
            </button>
          )
        }
      >
        <h2 className="label-type text-xl">{changing ? changing.name : "A new post"}</h2>
        <div ref={nameField}>
          <TextField label="Name" value={name} onChange={setName} />
        </div>
        <NumberFields fields={fields} values={values} onChange={setValues} narrow />
      </SaveForm>
      <ul className="border-(--hair) border-t">
        {posts.map((q) => (
          <li key={q.id} className="hairline-b flex items-center gap-2 py-1.5">
            <span>
              {q.name}{" "}
              <span className="quiet figure-type">
                {units.length(q.at_m[0])} {units.lengthUnit}
              </span>
            </span>
            <span className="flex-1" />
            <button type="button" className="plain-button" aria-label={`Change ${q.name}`} onClick={() => take(q)}>
              Change
            </button>
            <RemoveButton
              text="Remove"
              name={q.name}
              remove={() =>
                api.delete("/api/crews/{crew}/boats/{boat}/posts/{post}", {
                  params: { path: { ...path, post: q.id } },
                })
              }
              onRemoved={fresh}
            />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="main-button justify-self-start"
        onClick={async () => {
          await save(boat, "posts");
          onDone();
        }}
      >
        Continue to the places
      </button>
    </div>,
  );
}

function newDot(fields: Parameters<typeof read>[0], values: Record<string, string>, name: string) {
  try {
    const n = read(fields, values);
    return n.x ? [{ name: name || "new", at: [n.x, n.y ?? 0, n.z ?? 0], shape: "post" as const }] : [];
  } catch {
    return [];
  }
}
