import { useMutation, useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Loose, NumberFields, read, SaveForm, typed } from "../../ui/Form";
import { massField, sideField } from "../../ui/fields";
import { useDraft } from "../../ui/useDraft";
import type { Rigging } from "./RiggingPage";

type Input = NonNullable<Schemas["RiggingInput"]["sonar"]>;

const CRITERION = new Map<string, string>(WORDS.sonar_criteria);
const RATINGS = [1, 2, 3, 4, 5];
const WEIGHTS = [0, 1, 2, 3, 4, 5];

type Props = { me: Membership; rigging: Rigging; chosen: string | undefined; onChoose: (key: string) => void };

/** Where the sonar goes: places side by side by the crew's weights, each figure with its reason. */
export function Sonar({ me, rigging, chosen, onChoose }: Props) {
  const queries = useQueryClient();
  const mayChange = may(me, "change_boat");
  const keep = useMutation({
    mutationFn: (sonar: Input) =>
      api.put("/api/crews/{crew}/boats/{boat}/rigging", {
        params: { path: { crew: me.crew_id, boat: rigging.id } },
        body: { ...rigging.settings, sonar, version: rigging.version },
      }),
    onSettled: () => {
      queries.invalidateQueries({ queryKey: ["boat", rigging.id] });
      freshGear(queries);
    },
  });
  const now: Input = rigging.settings.sonar ?? {};
  const weigh = (key: string, w: number) => keep.mutate({ ...now, weights: { ...now.weights, [key]: w } });
  const rate = (place: string, key: string, r: number) =>
    keep.mutate({ ...now, ratings: { ...now.ratings, [place]: { ...now.ratings?.[place], [key]: r } } });
  const shown = rigging.sonar.find((s) => s.key === chosen) ?? rigging.sonar[0];
  const first = rigging.sonar[0];
  if (!shown || !first) return <p>Set where people stand first: then places for the sonar can be judged.</p>;
  return (
    <section aria-label="Where the sonar goes" className="grid gap-3">
      <p className="text-lg leading-snug">
        By your weights: {first.name}, {first.score.toFixed(0)} of 100.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full">
          <thead>
            <tr className="align-bottom text-sm">
              <th scope="col" className="text-left font-normal">
                0 to 10 by
              </th>
              {rigging.sonar.map((s) => (
                <th key={s.key} scope="col" className="font-normal">
                  <button
                    type="button"
                    aria-pressed={s.key === shown.key}
                    className={`min-h-11 cursor-pointer px-1 leading-tight ${s.key === shown.key ? "underline" : ""}`}
                    onClick={() => onChoose(s.key)}
                  >
                    {s.name}
                  </button>
                </th>
              ))}
              <th scope="col" className="quiet text-right font-normal">
                weight
              </th>
            </tr>
          </thead>
          <tbody>
            {first.marks.map((m) => (
              <tr key={m.key} className="hairline-b">
                <th scope="row" className="py-1 text-left font-normal leading-tight">
                  {CRITERION.get(m.key)}
                </th>
                {rigging.sonar.map((s) => (
                  <td key={s.key} className="figure-type text-center">
                    {((s.marks.find((x) => x.key === m.key)?.value ?? 0) * 10).toFixed(0)}
                  </td>
                ))}
                <td className="text-right">
                  {mayChange ? (
                    <select
                      aria-label={`Weight of ${CRITERION.get(m.key)}`}
                      className="select min-h-11 w-16 text-base"
                      value={m.weight}
                      disabled={keep.isPending}
                      onChange={(e) => weigh(m.key, Number(e.target.value))}
                    >
                      {WEIGHTS.map((w) => (
                        <option key={w} value={w}>
                          {w}
                        </option>
                      ))}
                    </select>
                  ) : (
                    m.weight
                  )}
                </td>
              </tr>
            ))}
            <tr>
              <th scope="row" className="py-1 text-left">
                of 100
              </th>
              {rigging.sonar.map((s) => (
                <td key={s.key} className="figure-type text-center text-lg">
                  {s.score.toFixed(0)}
                </td>
              ))}
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      {keep.error && (
        <p role="alert" className="text-loud">
          {sayError(keep.error)}
        </p>
      )}
      <h2 className="label-type text-xl">Why: {shown.name}</h2>
      {!shown.listed && <p className="quiet">Nothing is listed there: reckoned where such things usually are.</p>}
      <ul className="grid gap-1">
        {shown.marks.map((m) => (
          <li key={m.key} className="hairline-b flex items-center justify-between gap-3 py-1">
            <span className="leading-snug">
              {CRITERION.get(m.key)}: <span className="quiet">{m.why}</span>
            </span>
            {m.rated && mayChange && (
              <select
                aria-label={`Rating of ${shown.name}: ${CRITERION.get(m.key)}`}
                className="select min-h-11 w-16 shrink-0 text-base"
                value={m.rating ?? 3}
                disabled={keep.isPending}
                onChange={(e) => rate(shown.key, m.key, Number(e.target.value))}
              >
                {RATINGS.map((r) => (
                  <option key={r} value={r}>
                    {r}
                  </option>
                ))}
              </select>
            )}
          </li>
        ))}
      </ul>
      {mayChange && <OwnPlace me={me} rigging={rigging} now={now} keep={(s) => keep.mutateAsync(s)} />}
    </section>
  );
}

type OwnProps = { me: Membership; rigging: Rigging; now: Input; keep: (sonar: Input) => Promise<unknown> };

/** A place that the crew thought of, judged beside the usual ones. */
function OwnPlace({ me, rigging, now, keep }: OwnProps) {
  const units = unitsOf(me.units);
  const side = sideField(units);
  const fields = [
    side("x", "From the transom"),
    side("y", "Off the middle", "port +, starboard −"),
    side("z", "Height"),
    massField(units)("kg", "Mass"),
  ];
  const scope = `${me.crew_id}.sonar.${rigging.id}.${me.units}`;
  const [name, setName] = useDraft(`${scope}.name`, "");
  const [values, setValues] = useDraft(`${scope}.values`, typed(fields, { x: 2, y: 0.8, z: 0.8, kg: 4 }));
  const own = now.own ?? [];
  return (
    <details>
      <summary className="label-type min-h-11 cursor-pointer py-2">A place of your own</summary>
      {own.map((o) => (
        <p key={o.name} className="hairline-b flex items-center justify-between gap-2">
          {o.name}
          <button
            type="button"
            className="plain-button"
            aria-label={`Drop ${o.name}`}
            onClick={() => keep({ ...now, own: own.filter((x) => x.name !== o.name) })}
          >
            Drop
          </button>
        </p>
      ))}
      <SaveForm
        name="A place for the sonar"
        draft={scope}
        button="Judge it too"
        save={() => {
          const n = read(fields, values);
          return keep({ ...now, own: [...own, { name, at_m: [n.x ?? 0, n.y ?? 0, n.z ?? 0], kg: n.kg ?? 0 }] });
        }}
      >
        <Loose label="Name" value={name} max={40} required onChange={setName} />
        <NumberFields fields={fields} values={values} onChange={setValues} narrow />
      </SaveForm>
    </details>
  );
}
