import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { askTrip } from "../../api/askTrip";
import { api, type GearDetail, type Membership } from "../../api/client";
import { noteGear } from "../../api/moves";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { AddPicture } from "../../parts/AddPicture";
import { Choice, Loose, NumberFields, RemoveButton, SaveForm, type Values } from "../../ui/Form";
import { ago, day } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl leading-tight">{title}</h2>
      {children}
    </section>
  );
}

/** Trips it is promised to, who has it, from whom it is. */
export function Spoken({ me, g, may }: { me: Membership; g: GearDetail; may: boolean }) {
  const queries = useQueryClient();
  const trips = useQuery(askTrip.trips(me.crew_id));
  const scope = `${me.crew_id}.loan.${g.id}`;
  const [whom, setWhom] = useDraft(`${scope}.whom`, "");
  const [until, setUntil] = useDraft(`${scope}.until`, "");
  const [way, setWay] = useDraft<"lent" | "borrowed">(`${scope}.way`, "lent");
  const open = g.bookings.filter((b) => !b.ended);
  const path = { crew: me.crew_id, gear: g.id };
  const done = () => freshGear(queries);
  const back = useMutation({
    mutationFn: (loan: string) =>
      api.post("/api/crews/{crew}/gear/{gear}/loans/{loan}/return", {
        params: { path: { ...path, loan } },
      }),
    onSuccess: done,
  });
  const promise = useMutation({
    mutationFn: (trip: string) =>
      api.post("/api/crews/{crew}/trips/{trip}/gear", {
        params: { path: { crew: me.crew_id, trip } },
        body: { gear: [g.id] },
      }),
    onSuccess: done,
  });
  const ahead = (trips.data ?? []).filter((t) => !t.logged && !open.some((b) => b.trip_id === t.id));
  return (
    <Part title="Promised to">
      {open.length === 0 && <p className="quiet">No trip.</p>}
      <ul>
        {open.map((b) => (
          <li key={b.id} className="flex min-h-11 items-center justify-between gap-2">
            <span className="leading-tight">
              {{ trip: "promised to ", lent: "lent to ", borrowed: "borrowed from " }[b.way]}
              {b.whom}, {day(b.from_on)}
              {b.until_on && b.until_on !== b.from_on ? ` to ${day(b.until_on)}` : ""}
            </span>
            {may && b.way !== "trip" && (
              <button
                type="button"
                className="plain-button shrink-0"
                disabled={back.isPending}
                onClick={() => back.mutate(b.id)}
              >
                {b.way === "lent" ? "It is back" : "Given back"}
              </button>
            )}
          </li>
        ))}
      </ul>
      {may && ahead.length > 0 && (
        <Choice
          label="Promise it to a trip"
          value=""
          options={[["", "choose a trip…"], ...ahead.map((t) => [t.id, `${t.name}, ${day(t.starts_on)}`] as const)]}
          onChange={(id) => id && promise.mutate(id)}
        />
      )}
      {promise.data && promise.data.refused.length > 0 && (
        <p role="alert" className="text-loud">
          {promise.data.refused.join(" ")}
        </p>
      )}
      {may && (
        <details>
          <summary className="label-type min-h-11 cursor-pointer py-2">Lend or borrow</summary>
          <SaveForm
            draft={scope}
            name="Lend or borrow"
            button="Note it"
            onSaved={() => {
              setWhom("");
              done();
            }}
            save={() =>
              api.post("/api/crews/{crew}/gear/{gear}/loans", {
                params: { path },
                body: { way, whom, ...(until ? { until_on: until } : {}) },
              })
            }
          >
            <Choice label="Lent or borrowed" value={way} options={WORDS.loans} onChange={setWay} />
            <Loose label="Who" value={whom} onChange={setWhom} />
            <Loose label="Until" type="date" value={until} onChange={setUntil} />
          </SaveForm>
        </details>
      )}
    </Part>
  );
}

export function Services({ me, g, may }: { me: Membership; g: GearDetail; may: boolean }) {
  const queries = useQueryClient();
  const fields = [
    { key: "days", label: "Every so many days", unit: "", si: 1 },
    { key: "hours", label: "or hours of running", unit: "", si: 1 },
    { key: "trips", label: "or trips", unit: "", si: 1 },
  ];
  const scope = `${me.crew_id}.service.${g.id}`;
  const [what, setWhat] = useDraft(`${scope}.what`, "");
  const [values, setValues] = useDraft<Values>(`${scope}.values`, { days: "0", hours: "0", trips: "0" });
  const path = { crew: me.crew_id, gear: g.id };
  const done = () => freshGear(queries);
  const serviced = useMutation({
    mutationFn: (s: GearDetail["services"][number]) =>
      api.post("/api/crews/{crew}/gear/{gear}/services/{service}/done", {
        params: { path: { ...path, service: s.id } },
        body: { version: s.version },
      }),
    onSettled: done,
  });
  if (!may && g.services.length === 0) return null;
  const often = (s: GearDetail["services"][number]) =>
    [
      s.every_days && howMany(s.every_days, "day"),
      s.every_hours && `${s.every_hours} h`,
      s.every_trips && howMany(s.every_trips, "trip"),
    ]
      .filter(Boolean)
      .join(" or ");
  return (
    <Part title="Service">
      <ul>
        {g.services.map((s) => (
          <li key={s.id} className="flex min-h-11 items-center justify-between gap-2">
            <span className="leading-tight">
              {s.what}
              <span className="quiet block text-sm">
                every {often(s)}; last {day(s.last_on)}
              </span>
            </span>
            {may && (
              <span className="flex shrink-0 gap-1">
                <button
                  type="button"
                  className="plain-button"
                  disabled={serviced.isPending}
                  onClick={() => serviced.mutate(s)}
                >
                  Done
                </button>
                <RemoveButton
                  text="Drop"
                  name={s.what}
                  remove={() =>
                    api.delete("/api/crews/{crew}/gear/{gear}/services/{service}", {
                      params: { path: { ...path, service: s.id } },
                    })
                  }
                  onRemoved={done}
                />
              </span>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <details>
          <summary className="label-type min-h-11 cursor-pointer py-2">Add a service</summary>
          <SaveForm
            draft={scope}
            name="Add a service"
            button="Add"
            onSaved={() => {
              setWhat("");
              done();
            }}
            save={() =>
              api.post("/api/crews/{crew}/gear/{gear}/services", {
                params: { path },
                body: {
                  what,
                  every_days: Math.round(Number(values.days) || 0),
                  every_hours: Number(values.hours) || 0,
                  every_trips: Math.round(Number(values.trips) || 0),
                  last_on: new Date().toISOString().slice(0, 10),
                },
              })
            }
          >
            <Loose label="What, such as: oil, knots, grease" value={what} onChange={setWhat} />
            <NumberFields fields={fields} values={values} onChange={setValues} narrow="single" />
          </SaveForm>
        </details>
      )}
    </Part>
  );
}

export function Pictures({ me, g, may }: { me: Membership; g: GearDetail; may: boolean }) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, gear: g.id };
  const send = (file: File) =>
    api.post("/api/crews/{crew}/gear/{gear}/photos", {
      params: { path },
      body: file as unknown as string,
      bodySerializer: (b) => b as unknown as BodyInit,
      headers: { "Content-Type": "application/octet-stream" },
    });
  if (!may && g.photos.length === 0) return null;
  return (
    <Part title="Pictures">
      {g.photos.map((f) => (
        <figure key={f.id}>
          <img
            src={`/api/crews/${me.crew_id}/gear/${g.id}/photos/${f.id}`}
            alt={`${g.name}, by ${f.by}`}
            width={f.width}
            height={f.height}
            loading="lazy"
            className="h-auto w-full border border-(--hair)"
          />
          {may && (
            <RemoveButton
              text="Remove"
              name={`picture by ${f.by}`}
              remove={() =>
                api.delete("/api/crews/{crew}/gear/{gear}/photos/{photo}", {
                  params: { path: { ...path, photo: f.id } },
                })
              }
              onRemoved={() => freshGear(queries)}
            />
          )}
        </figure>
      ))}
      <AddPicture send={send} onSent={() => freshGear(queries)} />
    </Part>
  );
}

export function History({ me, g }: { me: Membership; g: GearDetail }) {
  const queries = useQueryClient();
  const where = useQuery(askGear.where(me.crew_id, g.id));
  const scope = `${me.crew_id}.note.${g.id}`;
  const [text, setText] = useDraft(`${scope}.text`, "");
  const moves = (where.data?.trail ?? []).map((t) => ({ at: t.at, by: t.by, text: `→ ${t.text}` }));
  const notes = g.notes.map((n) => ({
    at: n.at,
    by: n.by,
    text: n.kind === "seen" ? "seen in its place" : `${n.kind === "note" ? "" : `${n.kind}: `}${n.text}`,
  }));
  const all = [...moves, ...notes].sort((a, b) => b.at.localeCompare(a.at)).slice(0, 40);
  return (
    <Part title="History">
      {may(me, "move") && (
        <SaveForm
          draft={scope}
          name="Add a note"
          button="Add note"
          onSaved={() => {
            setText("");
            freshGear(queries);
          }}
          save={() => noteGear(me.crew_id, g.id, "note", text)}
        >
          <Loose label="A note, such as: crunchy when wound fast" value={text} onChange={setText} max={500} />
        </SaveForm>
      )}
      <ol className="text-sm">
        {all.map((n) => (
          <li key={n.at + n.text} className="hairline-b py-1 leading-tight">
            {n.text}
            <span className="quiet block">
              {n.by}, {ago(n.at)}
            </span>
          </li>
        ))}
      </ol>
    </Part>
  );
}
