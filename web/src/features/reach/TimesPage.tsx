import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask } from "../../api/ask";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { NumberFields, Page, Part, read, SaveForm, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";

type Table = Schemas["Table"];
type Times = Schemas["Times"];

const s = (key: keyof Table, label: string, hint?: string, unit = "s") => ({ key, label, hint, unit, si: 1 });

/** Seconds for each of a unit that is so much in SI. */
const per = (si: number, f: ReturnType<typeof s>) => ({ ...f, si: 1 / si });

/** The table in the order in which a hand goes. */
const partsOf = (units: Units): [string, ReturnType<typeof s>[]][] => [
  [
    "Getting there",
    [
      per(
        units.lengthSI,
        s("walk_s_per_m", `${units.system === "us" ? "A foot" : "A metre"} walked`, "one way, among gear"),
      ),
      per(units.lengthSI, s("rise_s_per_m", `${units.system === "us" ? "A foot" : "A metre"} up or down`, "one way")),
      s("turn_s", "Turning round"),
      s("sit_s", "Up from a seat and down again"),
      s("stand_aside_s", "Someone is on the lid", "until they stood aside"),
    ],
  ],
  [
    "Opening",
    [
      s("hinged_lid_s", "A hinged lid", "open and shut"),
      s("lift_off_lid_s", "A lid that lifts off"),
      s("latch_s", "A latch"),
      s("lock_s", "A lock"),
      s("box_s", "A box or bag inside"),
    ],
  ],
  [
    "Taking it",
    [
      s("bend_s", "Bending, and up again"),
      s("kneel_s", "Kneeling, and up again"),
      s("stretch_s", "Stretching for it"),
      s("shift_s", "Lifting a thing off it", "and back"),
      per(units.massSI, s("shift_s_per_kg", `and for each ${units.massUnit} of that`)),
      s("grasp_s", "Taking hold, and letting go"),
    ],
  ],
  [
    "Finding it",
    [
      s("look_s", "Each other thing in the place"),
      s("labelled_share", "With labels or trays", "the share that is left of looking", ""),
      s("sea_factor", "Cold, wet, seaway", "all times this many times over", "×"),
    ],
  ],
];

export default function TimesPage({ me }: { me: Membership }) {
  const times = useQuery(ask.times(me.crew_id));
  if (times.isPending) return <Waiting text="Loading the times…" />;
  if (times.isError) return <ErrorNote text={sayError(times.error)} onRetry={() => times.refetch()} />;
  return <Editor me={me} times={times.data} />;
}

function Editor({ me, times }: { me: Membership; times: Times }) {
  const queries = useQueryClient();
  const parts = useMemo(() => partsOf(unitsOf(me.units)), [me.units]);
  const fields = parts.flatMap(([, list]) => list);
  const rounded = (t: Table) =>
    Object.fromEntries(fields.map((f) => [f.key, Number((t[f.key as keyof Table] as number).toFixed(2))]));
  const [values, setValues] = useDraft(`${me.crew_id}.times.values.${me.units}`, () =>
    typed(fields, rounded(times.times)),
  );
  const mayChange = may(me, "change_boat");
  const keep = async (table: Table) => {
    const now = await api.put("/api/crews/{crew}/times", { params: { path: { crew: me.crew_id } }, body: table });
    await queries.invalidateQueries();
    return now;
  };
  const table = () => {
    const shown = typed(fields, rounded(times.times));
    const typedIn = read(fields, values);
    // What was not touched keeps its full figure.
    const kept = Object.fromEntries(
      fields.map((f) => [f.key, values[f.key] === shown[f.key] ? times.times[f.key as keyof Table] : typedIn[f.key]]),
    );
    return { ...times.times, ...kept } as Table;
  };
  return (
    <Page
      title="How long things take"
      intro="Seconds, there and back unless it says otherwise. Walking, bending and kneeling are from a published table of predetermined times (from memory); lids, looking and lifting are common practice. Take a watch aboard and put them right: plans and rummage minutes follow."
    >
      <p>{times.own ? "These are the crew's own." : "These are the usual ones."}</p>
      <fieldset disabled={!mayChange} className="contents">
        <SaveForm
          draft={`${me.crew_id}.times`}
          name="How long things take"
          button="Save"
          save={() => keep(table())}
          extra={
            times.own && (
              <button type="button" className="plain-button" onClick={() => keep(times.usual)}>
                Back to the usual ones
              </button>
            )
          }
        >
          {parts.map(([title, list]) => (
            <Part key={title} title={title}>
              <NumberFields fields={list} values={values} onChange={setValues} />
            </Part>
          ))}
        </SaveForm>
      </fieldset>
    </Page>
  );
}
