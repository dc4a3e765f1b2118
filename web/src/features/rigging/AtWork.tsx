import { useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { api, type Membership } from "../../api/client";
import { may } from "../../domain/may";
import type { Units } from "../../domain/units";
import { Choice, NumberFields, read, SaveForm, typed } from "../../ui/Form";
import { lengthField } from "../../ui/fields";
import { useDraft } from "../../ui/useDraft";
import { LooseThings } from "./Loose";
import type { Rigging } from "./RiggingPage";
import { UsedWhere } from "./UsedWhere";

type Props = { me: Membership; rigging: Rigging; units: Units };

/** How she works as she is rigged: lines, the working side, ground tackle, what slides, what is too long. */
export function AtWork({ me, rigging, units }: Props) {
  return (
    <div className="grid gap-4">
      <Lines rigging={rigging} units={units} />
      <LooseThings rigging={rigging} />
      <GroundTackle me={me} rigging={rigging} units={units} />
      {rigging.long.length > 0 && (
        <section aria-label="Longer than any place" className="border-(--hair) border-t pt-3">
          <h2 className="label-type text-xl">Longer than any place</h2>
          {rigging.long.map((s) => (
            <p key={s} className="py-1 leading-snug">
              {s}
            </p>
          ))}
        </section>
      )}
      {may(me, "change_boat") && <UsedWhere me={me} rigging={rigging} units={units} />}
    </div>
  );
}

/** Lines as they are trolled, and the side where fish come in. */
function Lines({ rigging, units }: { rigging: Rigging; units: Units }) {
  const { lines, said, side } = rigging.spread;
  return (
    <section aria-label="Lines" className="grid gap-2">
      <h2 className="label-type text-xl">Lines, trolled</h2>
      {lines.length === 0 ? (
        <p className="quiet">No holder has a rod in it yet.</p>
      ) : (
        <ol className="flex flex-wrap gap-x-3">
          {lines.map((l) => (
            <li key={l.name}>
              {l.name}
              {l.gap_m > 0 && (
                <span className="figure-type quiet">
                  {" "}
                  – {units.length(l.gap_m)} {units.lengthUnit} –
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
      {said.map((s) => (
        <p key={s} className="leading-snug">
          {s}
        </p>
      ))}
      <h2 className="label-type pt-2 text-xl">
        {rigging.settings.working_side ? `Working side: ${rigging.settings.working_side}` : "Working side"}
      </h2>
      {side.length === 0 && <p className="quiet">Say below on which side fish come in.</p>}
      <ul>
        {side.map((s) => (
          <li
            key={s.what}
            className={`border-l-3 py-1 pl-3 leading-snug ${s.has ? "border-(--hair)" : "border-(--loud-ink)"}`}
          >
            <b>{s.what}</b>: {s.said}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What her anchor hangs on, and what that does. */
function GroundTackle({ me, rigging, units }: Props) {
  const queries = useQueryClient();
  const length = lengthField(units);
  const fields = [
    length("chain_m", "Chain"),
    { key: "chain_mm", label: "Its links, thick", unit: "mm", si: 1 },
    length("rope_m", "Rope"),
    { key: "rope_mm", label: "The rope, thick", unit: "mm", si: 1 },
    length("depth_m", "Water where she anchors"),
    length("tide_m", "Tide on top"),
    { key: "scope", label: "Scope", unit: "×", si: 1, hint: "0 for 7, or 5 on chain alone" },
    { ...length("windlass_m_per_min", "Windlass, a minute"), hint: "0 by hand" },
  ];
  const now = rigging.settings.rode;
  const scope = `${me.crew_id}.rode.${rigging.id}.${me.units}`;
  const [values, setValues] = useDraft(
    `${scope}.values`,
    typed(fields, (now ?? {}) as unknown as Record<string, number>),
  );
  const [place, setPlace] = useDraft<string>(`${scope}.place`, now?.place_id ?? "");
  return (
    <section aria-label="Ground tackle" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">Ground tackle</h2>
      {rigging.anchor.map((s) => (
        <p key={s} className="leading-snug">
          {s}
        </p>
      ))}
      {may(me, "change_boat") && (
        <details open={!now}>
          <summary className="label-type min-h-11 cursor-pointer py-2">Her rode</summary>
          <SaveForm
            name="Her rode"
            draft={scope}
            button="Keep the rode"
            save={() => {
              const n = read(fields, values);
              return api.put("/api/crews/{crew}/boats/{boat}/rigging", {
                params: { path: { crew: me.crew_id, boat: rigging.id } },
                body: {
                  ...rigging.settings,
                  rode: {
                    chain_m: n.chain_m ?? 0,
                    chain_mm: n.chain_mm ?? 0,
                    rope_m: n.rope_m ?? 0,
                    rope_mm: n.rope_mm ?? 0,
                    depth_m: n.depth_m ?? 0,
                    tide_m: n.tide_m ?? 0,
                    scope: n.scope ?? 0,
                    windlass_m_per_min: n.windlass_m_per_min ?? 0,
                    ...(place ? { place_id: place } : {}),
                  },
                  version: rigging.version,
                },
              });
            }}
            onSaved={() => {
              queries.invalidateQueries({ queryKey: ["boat", rigging.id] });
              freshGear(queries);
            }}
          >
            <NumberFields fields={fields} values={values} onChange={setValues} narrow />
            <Choice
              label="It lies in"
              value={place}
              options={[["", "not known"], ...rigging.places.map((q) => [q.id, q.name] as const)]}
              onChange={setPlace}
            />
          </SaveForm>
        </details>
      )}
    </section>
  );
}
