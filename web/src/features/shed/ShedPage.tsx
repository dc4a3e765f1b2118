import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type Membership, type Shed, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Choice, NumberFields, Page, Part, RemoveButton, read, SaveForm, TextField, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";

/** Places ashore: shelves, drawers, home, each with how full it is. */
export default function ShedPage({ me }: { me: Membership }) {
  const shed = useQuery(askGear.shed(me.crew_id));
  const [open, setOpen] = useState<string>();
  const mayChange = may(me, "change_gear");
  const units = unitsOf(me.units);
  if (shed.isPending) return <Waiting text="Loading the places ashore…" />;
  if (shed.isError) return <ErrorNote text={sayError(shed.error)} onRetry={() => shed.refetch()} />;
  const sites = [...new Set(shed.data.map((s) => s.site))];
  return (
    <Page title="Ashore" intro="Everything that stays ashore has a place too.">
      {sites.length === 0 && <p>No places ashore yet: add the first shelf below.</p>}
      {sites.map((site) => (
        <Part key={site} title={site}>
          <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
            {shed.data
              .filter((s) => s.site === site)
              .map((s) => (
                <li key={s.id} className="grid content-start gap-1 border border-(--hair) p-3">
                  <Link to={`/shed/${s.id}`} className="label-type text-xl leading-tight hover:underline">
                    {s.name}
                  </Link>
                  <Fill s={s} units={units} />
                  {mayChange && (
                    <span className="flex gap-1 pt-1">
                      <button
                        type="button"
                        className="plain-button"
                        aria-expanded={open === s.id}
                        onClick={() => setOpen(open === s.id ? undefined : s.id)}
                      >
                        {open === s.id ? "Close" : "Change"}
                      </button>
                      <Link className="plain-button flex items-center" to={`/labels?shed=${s.id}`}>
                        Label
                      </Link>
                    </span>
                  )}
                  {open === s.id && <ShedForm me={me} shed={s} onDone={() => setOpen(undefined)} />}
                </li>
              ))}
          </ul>
        </Part>
      ))}
      {mayChange && (
        <Part title="Add a place ashore">
          <ShedForm key={shed.data.length} me={me} onDone={() => {}} />
        </Part>
      )}
    </Page>
  );
}

/** How much stands there, against what it carries. */
function Fill({ s, units }: { s: Shed; units: Units }) {
  const over = s.max_kg > 0 && s.kg > s.max_kg;
  return (
    <>
      <p className="leading-tight">
        {s.pieces === 0 ? "empty" : howMany(s.pieces, "entry", "entries")},{" "}
        <span className="figure-type">{units.mass(s.kg)}</span>
        {s.max_kg > 0 && (
          <>
            {" "}
            of <span className="figure-type">{units.mass(s.max_kg)}</span>
          </>
        )}{" "}
        {units.massUnit}
        <span className="quiet">
          , {s.dryness}
          {s.locks ? ", locks" : ""}
        </span>
      </p>
      {s.max_kg > 0 && (
        <span className="block h-2 border border-base-content" aria-hidden="true">
          <span
            className={`block h-full ${over ? "bg-accent" : "bg-secondary"}`}
            style={{ width: `${Math.min(100, (100 * s.kg) / s.max_kg)}%` }}
          />
        </span>
      )}
      {over && (
        <b className="text-loud">
          Overloaded by {units.mass(s.kg - s.max_kg)} {units.massUnit}.
        </b>
      )}
      {s.wet > 0 && <b className="text-loud">{howMany(s.wet, "thing")} must stay dry, and it is wet here.</b>}
    </>
  );
}

function ShedForm({ me, shed, onDone }: { me: Membership; shed?: Shed; onDone: () => void }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const side = (key: string, label: string) => ({ key, label, unit: units.sideUnit, si: units.sideSI });
  const fields = [
    side("x", "Long inside (0: not measured)"),
    side("y", "Deep"),
    side("z", "High"),
    { key: "kg", label: "Carries (0: no limit)", unit: units.massUnit, si: units.massSI },
  ];
  const scope = `${me.crew_id}.shed.${shed?.id ?? "new"}.${me.units}`;
  const [values, setValues] = useDraft(
    `${scope}.values`,
    typed(fields, { x: shed?.size_m[0] ?? 0, y: shed?.size_m[1] ?? 0, z: shed?.size_m[2] ?? 0, kg: shed?.max_kg ?? 0 }),
  );
  const [site, setSite] = useDraft(`${scope}.site`, shed?.site ?? "boathouse");
  const [name, setName] = useDraft(`${scope}.name`, shed?.name ?? "");
  const [dryness, setDryness] = useDraft<"dry" | "wet">(`${scope}.dryness`, shed?.dryness ?? "dry");
  const [locks, setLocks] = useDraft(`${scope}.locks`, shed?.locks ?? false);
  const path = { crew: me.crew_id };
  const save = async () => {
    const n = read(fields, values);
    const body = {
      site,
      name,
      size_m: [n.x ?? 0, n.y ?? 0, n.z ?? 0] as [number, number, number],
      dryness,
      max_kg: n.kg ?? 0,
      locks,
    };
    return shed
      ? api.put("/api/crews/{crew}/shed/{shed}", {
          params: { path: { ...path, shed: shed.id } },
          body: { ...body, version: shed.version },
        })
      : api.post("/api/crews/{crew}/shed", { params: { path }, body });
  };
  const done = () => {
    freshGear(queries);
    onDone();
  };
  return (
    <SaveForm
      draft={scope}
      name={shed ? `Change ${shed.name}` : "Add a place ashore"}
      button={shed ? "Save" : "Add"}
      onSaved={done}
      save={save}
      extra={
        shed && (
          <RemoveButton
            text="Remove"
            name={shed.name}
            remove={() => api.delete("/api/crews/{crew}/shed/{shed}", { params: { path: { ...path, shed: shed.id } } })}
            onRemoved={done}
          />
        )
      }
    >
      <div className={`grid gap-x-4 gap-y-2 ${shed ? "" : "grid-cols-2 lg:grid-cols-4"}`}>
        <TextField label="In, such as: boathouse, van, home" value={site} onChange={setSite} />
        <TextField label="Name" value={name} onChange={setName} />
        <Choice label="Inside it is" value={dryness} options={WORDS.dryness} onChange={setDryness} />
        <label className="flex min-h-11 items-center gap-2 self-end">
          <input type="checkbox" className="checkbox" checked={locks} onChange={(e) => setLocks(e.target.checked)} /> it
          locks
        </label>
      </div>
      <NumberFields fields={fields} values={values} onChange={setValues} narrow={shed ? true : undefined} />
    </SaveForm>
  );
}
