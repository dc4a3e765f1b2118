import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import type { Rigging } from "./RiggingPage";

type Props = { rigging: Rigging; units: Units; onTake: (id: string) => void };

/** All that is fastened to her, by kind. */
export function Listed({ rigging, units, onTake }: Props) {
  const kinds = WORDS.fitting_kinds.filter(([kind]) => rigging.fittings.some((f) => f.kind === kind));
  return (
    <div className="grid gap-4">
      {kinds.length > 0 && (
        <section aria-label="Listed">
          <h2 className="label-type text-xl">
            Listed, {units.mass(rigging.listed_kg)} {units.massUnit}
          </h2>
          {kinds.map(([kind, label]) => (
            <div key={kind} className="mt-2">
              <h3 className="quiet text-sm">{label}</h3>
              <ul>
                {rigging.fittings
                  .filter((f) => f.kind === kind)
                  .map((f) => (
                    <li key={f.id} className="hairline-b">
                      <button
                        type="button"
                        className="flex min-h-11 w-full cursor-pointer items-center justify-between gap-3 text-left leading-tight hover:underline"
                        onClick={() => onTake(f.id)}
                      >
                        <span>
                          {f.name}
                          {f.lies.guess && <span className="quiet"> – guessed</span>}
                        </span>
                        <span className="figure-type quiet shrink-0">
                          {units.length(f.lies.at_m[0])} {units.lengthUnit} · {units.mass(f.kg)} {units.massUnit}
                        </span>
                      </button>
                    </li>
                  ))}
              </ul>
            </div>
          ))}
        </section>
      )}
    </div>
  );
}
