import type { Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import type { FittingInput } from "./handForm";

type Props = {
  bears: Schemas["Bears"];
  sea: boolean;
  units: Units;
  set: (change: (f: FittingInput) => unknown) => void;
};

const METHOD = new Map<string, string>(WORDS.methods);
const PANEL = new Map<string, string>(WORDS.panels);

/** What it must bear, and the ways of fixing it, best first. */
export function Bears({ bears, units, set }: Props) {
  const go = bears.ways.filter((w) => !w.out);
  const not = bears.ways.filter((w) => w.out);
  return (
    <div className="grid gap-3 border-(--hair) border-t pt-3">
      {bears.cautions.map((c) => (
        <p key={c} className="border-(--loud-ink) border-l-3 pl-3 leading-snug">
          {c}
        </p>
      ))}
      <section aria-label="What it must bear">
        <h2 className="label-type text-xl">What it must bear</h2>
        <p className="quiet text-sm">
          An estimate, with {PANEL.get(bears.panel)} of {bears.panel_mm} mm{bears.guess && " (a guess)"}. Where a life
          hangs on it, have it looked at.
        </p>
        <table className="w-full">
          <thead>
            <tr className="quiet text-left text-sm">
              <th className="font-normal" scope="col">
                Under
              </th>
              <th className="text-right font-normal" scope="col">
                along, {units.strapUnit}
              </th>
              <th className="text-right font-normal" scope="col">
                off, {units.strapUnit}
              </th>
              <th className="text-right font-normal" scope="col">
                turning, {units.torqueUnit}
              </th>
            </tr>
          </thead>
          <tbody>
            {bears.loads.map((l) => (
              <tr key={l.name} className="hairline-b">
                <th scope="row" className="py-1 text-left font-normal">
                  {l.name}
                </th>
                {[l.shear_n / units.strapSI, l.pull_n / units.strapSI, l.moment_n_m / units.torqueSI].map((n, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: columns
                  <td key={i} className="figure-type text-right">
                    {n.toFixed(0)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="Ways of fixing it" className="grid gap-2">
        <h2 className="label-type text-xl">Ways of fixing it</h2>
        {go.slice(0, 4).map((w, i) => (
          <Way
            units={units}
            key={w.method}
            w={w}
            best={i === 0}
            onTake={() => set((f) => Object.assign(f.held, { method: w.method }))}
          />
        ))}
        <details>
          <summary className="label-type min-h-11 cursor-pointer py-2">
            The others, {go.length - Math.min(go.length, 4) + not.length}
          </summary>
          <div className="grid gap-2">
            {go.slice(4).map((w) => (
              <Way
                units={units}
                key={w.method}
                w={w}
                onTake={() => set((f) => Object.assign(f.held, { method: w.method }))}
              />
            ))}
            {not.map((w) => (
              <p key={w.method} className="leading-snug">
                <b>{METHOD.get(w.method)}</b>: {w.out}
              </p>
            ))}
          </div>
        </details>
      </section>
    </div>
  );
}

type WayProps = { w: Schemas["WayView"]; units: Units; best?: boolean; onTake: () => void };

function Way({ w, units, best, onTake }: WayProps) {
  return (
    <article className="border border-(--hair) bg-base-100 p-3" data-way={w.method}>
      <div className="flex items-center justify-between gap-2">
        <h3 className="label-type text-lg leading-tight">
          {best && "Best: "}
          {METHOD.get(w.method)}
        </h3>
        <button
          type="button"
          className="plain-button shrink-0"
          aria-label={`Take ${METHOD.get(w.method)}`}
          onClick={onTake}
        >
          Take
        </button>
      </div>
      <p className="leading-snug">{w.for.join(" ")}</p>
      {w.against.length > 0 && <p className="leading-snug">But: {w.against.join(" ")}</p>}
      <p className="quiet figure-type leading-snug">{figures(w, units)}</p>
      {w.buy.length > 0 && <p className="leading-snug">Buy: {w.buy.join("; ")}.</p>}
    </article>
  );
}

function figures(w: Schemas["WayView"], units: Units): string {
  return [
    w.needed_mm !== undefined &&
      (w.length_mm !== undefined
        ? `screws ${w.length_mm} mm (${w.needed_mm.toFixed(0)} needed)`
        : `${w.needed_mm.toFixed(0)} mm of screw needed`),
    w.hole_mm && `hole ${w.hole_mm} mm`,
    w.torque_n_m && `tighten to ${units.torque(w.torque_n_m, 1)}`,
    w.sealant && `sealant: ${w.sealant}`,
  ]
    .filter(Boolean)
    .join(" · ");
}
