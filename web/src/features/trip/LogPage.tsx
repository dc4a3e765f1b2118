import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { askPower } from "../../api/askPower";
import { askTrip, writeTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { Choice, Loose, type NumberField, Page, readOne, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";
import { Pictures } from "./Pictures";
import { type TripPage, useTrip } from "./useTrip";

/** After a trip, in one pass: hours, fuel, what was used, what broke, what to remember. */
export default function LogPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const t = useTrip(me, trip);
  useTitle(t.page.data && `Log, ${t.page.data.name}`);
  if (t.page.isPending) return <Waiting text="Looking at the trip…" />;
  if (t.page.isError) return <ErrorNote text={sayError(t.page.error)} onRetry={() => t.page.refetch()} />;
  const p = t.page.data;
  const begun = p.starts_on <= new Date().toISOString().slice(0, 10);
  return (
    <Page title={`Log of ${p.name}`}>
      {p.logged ? (
        <p>It is logged: {p.hours} h were run.</p>
      ) : !begun ? (
        <p>It has not begun: log it when it is over.</p>
      ) : may(me, "change_gear") ? (
        <Log me={me} page={p} />
      ) : (
        <p>Who may change gear logs the trip.</p>
      )}
      {begun && <Pictures me={me} trip={trip} />}
    </Page>
  );
}

const VOLTS = { unit: "V", si: 1 };

type Marks = Record<string, "used" | "worn" | "broken">;

function Log({ me, page }: { me: Membership; page: TripPage }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const units = unitsOf(me.units);
  const scope = `${me.crew_id}.log.${page.id}`;
  const bench = useQuery(ask.bench(me.crew_id, page.boat_id ?? ""));
  const along = useQuery(askTrip.along(me.crew_id, page.id));
  const [hours, setHours] = useDraft(`${scope}.hours`, String(page.ran_h));
  const [filled, setFilled] = useDraft(`${scope}.filled`, "");
  const [far, setFar] = useDraft(`${scope}.far`, "");
  const [iceLeft, setIce] = useDraft(`${scope}.ice`, "");
  const [took, setTook] = useDraft(`${scope}.took`, "");
  const banks = useQuery({ ...askPower.boat(me.crew_id, page.boat_id ?? ""), enabled: page.boat_id !== undefined }).data
    ?.net.banks;
  const [volts, setVolts] = useDraft<Record<string, string>>(`${scope}.volts`, {});
  const [notes, setNotes] = useDraft(`${scope}.notes`, "");
  const [marks, setMarks] = useDraft<Marks>(`${scope}.marks`, {});
  const volume: NumberField = {
    key: "filled_l",
    label: "Fuel filled after it",
    unit: units.volumeUnit,
    si: units.volumeSI,
  };
  const sea = (bench.data?.water_density_kg_m3 ?? 0) > 1005;
  const way = sea
    ? { unit: "nmi", si: 1852 }
    : units.system === "us"
      ? { unit: "mi", si: 1609.344 }
      : { unit: "km", si: 1000 };
  const mark = (id: string, as: Marks[string]) => {
    const next = { ...marks };
    if (next[id] === as) delete next[id];
    else next[id] = as;
    setMarks(next);
  };
  const things = [
    ...page.goes.map((g) => ({ id: g.gear_id, name: g.name })),
    ...(along.data?.list ?? []).map((p) => ({ id: p.gear_id, name: p.name })),
  ];
  const said = Object.keys(marks);
  const save = () => {
    const body: Schemas["LogInput"] = {
      version: page.version,
      hours: readOne({ unit: "h", si: 1 }, hours) ?? 0,
      notes,
      distance_m: readOne(way, far) ?? 0,
      ice_left_kg: readOne({ unit: units.massUnit, si: units.massSI }, iceLeft) ?? 0,
    };
    if (took) body.fetching = Number(took);
    const read = (banks ?? []).flatMap((b) => {
      const [before_v, after_v] = ["before", "after"].map((k) => readOne(VOLTS, volts[`${b.key} ${k}`] ?? "") ?? 0);
      return before_v && after_v ? [{ bank: b.key, before_v, after_v }] : [];
    });
    if (read.length > 0) body.volts = read as NonNullable<Schemas["LogInput"]["volts"]>;
    const litres = readOne(volume, filled);
    if (litres !== undefined) body.filled_l = litres;
    if (said.length > 0) body.used = said;
    const broke = said.flatMap((id) =>
      marks[id] === "used" ? [] : [{ gear_id: id, condition: marks[id] as "worn" | "broken" }],
    );
    if (broke.length > 0) body.broke = broke as NonNullable<Schemas["LogInput"]["broke"]>;
    return writeTrip.log(me.crew_id, page.id, body);
  };
  return (
    <SaveForm
      draft={scope}
      name={`Log ${page.name}`}
      button="Log the trip"
      save={save}
      onSaved={() => {
        queries.invalidateQueries({ queryKey: ask.session().queryKey });
        freshGear(queries);
        go("/trips");
      }}
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-5">
        <Loose label="Hours run" value={hours} onChange={setHours} unit="h" />
        <Loose label={volume.label} unit={volume.unit} value={filled} onChange={setFilled} />
        <Loose label="Way" unit={way.unit} value={far} onChange={setFar} />
        <Loose label="Ice left" unit={units.massUnit} value={iceLeft} onChange={setIce} />
        <Choice
          label="Fetching things took"
          value={took}
          options={[
            ["", "nobody said"],
            ["0.7", "less than reckoned"],
            ["1", "about as reckoned"],
            ["1.5", "more than reckoned"],
            ["2.5", "much more"],
          ]}
          onChange={setTook}
        />
      </div>
      <p className="quiet text-sm">What was filled teaches what she takes; leave empty what nobody knows.</p>
      {banks && banks.length > 0 && (
        <fieldset className="grid gap-1">
          <legend className="label-type text-xl">Batteries at rest</legend>
          <p className="quiet text-sm">
            An hour after the last load or charge, before the day and after it: that teaches what a bank still holds.
          </p>
          <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            {banks.flatMap((b) =>
              (["before", "after"] as const).map((k) => (
                <Loose
                  key={`${b.key} ${k}`}
                  label={`${b.name}, ${k}`}
                  unit="V"
                  value={volts[`${b.key} ${k}`] ?? ""}
                  onChange={(v) => setVolts({ ...volts, [`${b.key} ${k}`]: v })}
                />
              )),
            )}
          </div>
        </fieldset>
      )}
      <h2 className="label-type text-xl">What was in a hand</h2>
      <p className="quiet text-sm">
        Press what was used. As soon as one is pressed, the rest counts as not used; press none where nobody knows.
      </p>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {things.map((g) => (
          <li key={g.id} className="hairline-b flex items-center justify-between gap-2 py-1">
            <button
              type="button"
              aria-pressed={marks[g.id] !== undefined}
              className={`min-h-11 flex-1 cursor-pointer px-2 text-left leading-tight ${marks[g.id] ? "bg-primary text-primary-content" : ""}`}
              onClick={() => mark(g.id, marks[g.id] ?? "used")}
            >
              {g.name}
            </button>
            {(["worn", "broken"] as const).map((c) => (
              <button
                key={c}
                type="button"
                aria-label={`${c}: ${g.name}`}
                aria-pressed={marks[g.id] === c}
                className={`label-type min-h-11 cursor-pointer px-2 text-base ${marks[g.id] === c ? "bg-accent text-accent-content" : "quiet"}`}
                onClick={() => mark(g.id, c)}
              >
                {c}
              </button>
            ))}
          </li>
        ))}
      </ul>
      <label className="grid gap-0.5">
        <span className="text-sm leading-tight">Notes</span>
        <textarea
          className="input h-24 w-full whitespace-pre-wrap p-2 text-base"
          maxLength={4000}
          value={notes}
          onChange={(e) => setNotes(e.target.value)}
        />
      </label>
    </SaveForm>
  );
}
