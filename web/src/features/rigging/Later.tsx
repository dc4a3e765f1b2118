import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { freshGear } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { api, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { AddPicture } from "../../parts/AddPicture";
import { Checks, Choice, Loose, RemoveButton } from "../../ui/Form";
import { day } from "../../ui/time";
import type { PartProps } from "./InHand";

type State = Schemas["FittingPart"]["state"];

/** When it is looked at again, what was bought for it, what was done, pictures. */
export function Later(props: PartProps) {
  const { fields, hand, onChange, set } = props;
  const f = hand.chosen;
  return (
    <div className="grid gap-3">
      <Loose
        label="What is looked at again: thumb screws, corrosion, sealant"
        value={f.look.what ?? ""}
        onChange={(what) => set((x) => Object.assign(x.look, { what }))}
      />
      {f.look.what && (
        <div className="grid grid-cols-2 gap-x-4">
          {fields.look.map((field) => (
            <Loose
              key={field.key}
              label={field.label}
              unit=""
              value={hand.values[field.key] ?? ""}
              onChange={(v) => onChange({ ...hand, values: { ...hand.values, [field.key]: v } })}
            />
          ))}
        </div>
      )}
      <ComesOff {...props} />
      <Parts {...props} />
      <Loose
        label="Cost"
        unit=""
        value={hand.values.cost ?? ""}
        onChange={(v) => onChange({ ...hand, values: { ...hand.values, cost: v } })}
      />
      {hand.id && <Done {...props} id={hand.id} />}
      {hand.id && <Pictures {...props} id={hand.id} />}
    </div>
  );
}

/** What taking it off takes, and where it docks. */
function ComesOff({ fields, hand, onChange, set }: PartProps) {
  const f = hand.chosen;
  const moving = f.moving ?? {};
  const change = (v: NonNullable<typeof f.moving>) => set((x) => Object.assign(x, { moving: { ...moving, ...v } }));
  return (
    <section aria-label="Taking it off" className="grid gap-2">
      <h2 className="label-type text-lg">Taking it off</h2>
      <Checks
        all={[
          ["unit", "It docks in bases, here or on another boat"],
          ["thief", "It comes off when she is left alone"],
        ]}
        on={(key) => (key === "unit" ? (f.unit ?? false) : (moving.when_left ?? false))}
        set={(key, on) => (key === "unit" ? set((x) => Object.assign(x, { unit: on })) : change({ when_left: on }))}
      />
      <Loose
        label={f.unit ? "Foot that it stands on" : "Foot that it takes, if it is a base"}
        value={f.dock ?? ""}
        onChange={(dock) => set((x) => Object.assign(x, { dock }))}
      />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        {fields.minutes.map((field) => (
          <Loose
            key={field.key}
            label={field.label}
            unit={field.unit}
            value={hand.values[field.key] ?? ""}
            onChange={(v) => onChange({ ...hand, values: { ...hand.values, [field.key]: v } })}
          />
        ))}
        <Loose label="Tools" max={200} value={moving.tools ?? ""} onChange={(tools) => change({ tools })} />
        <Loose label="Parts" max={200} value={moving.parts ?? ""} onChange={(parts) => change({ parts })} />
      </div>
    </section>
  );
}

function Parts({ hand, set }: PartProps) {
  const parts = hand.chosen.parts;
  return (
    <section aria-label="Parts" className="grid gap-2">
      <h2 className="label-type text-lg">Parts</h2>
      {parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts have no other name
        <div key={i} className="grid grid-cols-[minmax(0,1fr)_9rem_auto] items-end gap-2">
          <Loose
            label="Part"
            max={120}
            required
            value={part.what}
            onChange={(what) => set((x) => Object.assign(x.parts[i] as typeof part, { what }))}
          />
          <Choice<State>
            label="It is"
            value={part.state}
            options={WORDS.part_states}
            onChange={(state) => set((x) => Object.assign(x.parts[i] as typeof part, { state }))}
          />
          <button
            type="button"
            className="plain-button"
            aria-label={`Drop ${part.what}`}
            onClick={() => set((x) => x.parts.splice(i, 1))}
          >
            Drop
          </button>
        </div>
      ))}
      {parts.length < 30 && (
        <button
          type="button"
          className="plain-button justify-self-start"
          onClick={() => set((x) => x.parts.push({ what: "", state: "order" }))}
        >
          Add a part
        </button>
      )}
    </section>
  );
}

/** What was done to it, and a line for what is done now; that it was looked at is a press. */
function Done({ me, rigging, hand, onChange, id }: PartProps & { id: string }) {
  const queries = useQueryClient();
  const [what, setWhat] = useState("");
  const now = rigging.fittings.find((f) => f.id === id);
  const done = useMutation({
    mutationFn: (looked: boolean) =>
      api.post("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/done", {
        params: { path: { crew: me.crew_id, boat: rigging.id, fitting: id } },
        body: { what: looked ? "" : what, looked, version: hand.version ?? 0 },
      }),
    onSuccess: () => {
      setWhat("");
      freshGear(queries);
      onChange({ ...hand, version: (hand.version ?? 0) + 1 });
    },
  });
  return (
    <section aria-label="What was done" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-lg">What was done</h2>
      {may(me, "change_gear") && (
        <div className="flex items-end gap-2">
          <div className="flex-1">
            <Loose label="Done now" max={200} value={what} onChange={setWhat} />
          </div>
          <button
            type="button"
            className="plain-button"
            disabled={!what.trim() || done.isPending}
            onClick={() => done.mutate(false)}
          >
            Note it
          </button>
          {now?.look.what && (
            <button type="button" className="plain-button" disabled={done.isPending} onClick={() => done.mutate(true)}>
              Looked at
            </button>
          )}
        </div>
      )}
      {done.error && (
        <p role="alert" className="text-loud">
          {sayError(done.error)}
        </p>
      )}
      <ul>
        {[...(now?.story ?? [])].reverse().map((s) => (
          <li key={s.on + s.what} className="hairline-b py-1 leading-snug">
            {s.what}{" "}
            <span className="quiet">
              {day(s.on.slice(0, 10))}, {s.by}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Pictures({ me, rigging, id }: PartProps & { id: string }) {
  const queries = useQueryClient();
  const asked = askBoat.fittingPhotos(me.crew_id, rigging.id, id);
  const photos = useQuery(asked);
  const fresh = () => queries.invalidateQueries({ queryKey: asked.queryKey });
  const path = { crew: me.crew_id, boat: rigging.id, fitting: id };
  return (
    <section aria-label="Pictures" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-lg">Pictures</h2>
      <div className="grid grid-cols-2 gap-2">
        {(photos.data ?? []).map((f) => (
          <figure key={f.id}>
            <img
              src={`/api/crews/${me.crew_id}/boats/${rigging.id}/fittings/${id}/photos/${f.id}`}
              alt={`By ${f.by}, ${new Date(f.at).toLocaleDateString()}`}
              width={f.width}
              height={f.height}
              loading="lazy"
              className="h-auto w-full border border-(--hair)"
            />
            <RemoveButton
              text="Remove"
              name={`picture by ${f.by}`}
              remove={() =>
                api.delete("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/photos/{photo}", {
                  params: { path: { ...path, photo: f.id } },
                })
              }
              onRemoved={fresh}
            />
          </figure>
        ))}
      </div>
      <AddPicture
        send={(file) =>
          api.post("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/photos", {
            params: { path },
            body: file as unknown as string,
            bodySerializer: (b) => b as unknown as BodyInit,
            headers: { "Content-Type": "application/octet-stream" },
          })
        }
        onSent={fresh}
      />
    </section>
  );
}
