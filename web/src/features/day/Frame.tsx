import { Plus, X } from "lucide-react";
import type { Schemas } from "../../api/client";
import { fromField, timeField } from "../../domain/clock";
import type { Units } from "../../domain/units";
import { Figure } from "../../ui/Figure";
import { Choice, Loose } from "../../ui/Form";
import type { Plan } from "./moments";

type Props = { view: Schemas["DayView"]; plan: Plan; units: Units; onPlan: (plan: Plan) => void };
type Mark = NonNullable<Plan["marks"]>[number];
type Cooler = NonNullable<Plan["coolers"]>[number];

const WALLS: [string, string][] = [
  ["2.2", "a bag"],
  ["1", "a usual box"],
  ["0.5", "a thick box"],
];

const NIGHT = 8; // hours on the charger where nobody said

/** What holds for the whole day: which time is fixed, where the water is, ice and how warm it is. */
export function Frame({ view, plan, units, onPlan }: Props) {
  const coolers = plan.coolers ?? [];
  const fuel = (view.boat?.tanks ?? []).filter((t) => t.kind === "fuel");
  const marks = plan.marks ?? [];
  const mark = (list: Mark[]) => onPlan({ ...plan, marks: list as NonNullable<Plan["marks"]> });
  const put = (list: Cooler[]) => onPlan({ ...plan, coolers: list as NonNullable<Plan["coolers"]> });
  const us = units.system === "us";
  const warm = (c: number) => (us ? c * 1.8 + 32 : c);
  const cold = (v: number) => (us ? (v - 32) / 1.8 : v);
  const places = view.boat?.places ?? [];
  const banks = view.answer?.banks ?? [];
  const starts = plan.power?.starts ?? [];
  const charged = (bank: string, soc: number) => {
    const rest = starts.filter((s) => s.bank !== bank);
    onPlan({ ...plan, power: { ...plan.power, starts: soc < 1 ? [...rest, { bank, soc }] : rest } });
  };
  return (
    <details className="border border-(--hair) px-3">
      <summary className="label-type min-h-11 cursor-pointer py-2 text-lg">
        Fixed time, tides, place, batteries, ice
      </summary>
      <div className="grid gap-3 pb-3">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          <Choice
            label="What is fixed"
            value={String(plan.fixed)}
            options={plan.phases.map((p, i) => [String(i), `${p.name} begins`] as const)}
            onChange={(i) => onPlan({ ...plan, fixed: Number(i) })}
          />
          <label className="grid content-start gap-0.5">
            <span className="text-sm leading-tight">at</span>
            <input
              type="time"
              className="input min-h-11 w-full text-base"
              value={timeField(plan.at_min)}
              onChange={(e) => {
                const at = fromField(e.target.value, plan.at_min);
                if (at !== undefined) onPlan({ ...plan, at_min: at });
              }}
            />
          </label>
          <Figure
            label="Latitude, south is −"
            unit="°"
            least={-90}
            value={plan.lat ?? 0}
            onChange={(lat) => onPlan({ ...plan, lat, lon: plan.lon ?? 0 })}
          />
          <Figure
            label="Longitude, west is −"
            unit="°"
            least={-180}
            value={plan.lon ?? 0}
            onChange={(lon) => onPlan({ ...plan, lon, lat: plan.lat ?? 0 })}
          />
          {fuel.length > 1 && (
            <Choice
              label="Tank used first"
              value={plan.fuel_first ?? ""}
              options={[["", fuel[0]?.name ?? ""], ...fuel.slice(1).map((t) => [t.name, t.name] as const)]}
              onChange={(fuel_first) => onPlan({ ...plan, fuel_first })}
            />
          )}
          <Figure
            label="Air around the ice"
            unit={us ? "°F" : "°C"}
            least={-60}
            value={warm(plan.air_c)}
            onChange={(v) => onPlan({ ...plan, air_c: cold(v) })}
          />
          <Figure
            label="Water"
            unit={us ? "°F" : "°C"}
            least={-60}
            value={warm(plan.water_c)}
            onChange={(v) => onPlan({ ...plan, water_c: cold(v) })}
          />
        </div>
        {marks.map((m, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two marks may have one name
          <fieldset key={i} className="grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-4">
            <legend className="sr-only">Time {i + 1}</legend>
            <Loose
              label="A time to know"
              value={m.name}
              required
              onChange={(name) => mark(marks.map((q, k) => (k === i ? { ...q, name } : q)))}
            />
            <label className="grid content-start gap-0.5">
              <span className="text-sm leading-tight">at</span>
              <input
                type="time"
                className="input min-h-11 w-full text-base"
                value={timeField(m.at_min)}
                onChange={(e) => {
                  const at = fromField(e.target.value, m.at_min);
                  if (at !== undefined) mark(marks.map((q, k) => (k === i ? { ...q, at_min: at } : q)));
                }}
              />
            </label>
            <button
              type="button"
              className="plain-button flex items-center gap-1.5 justify-self-start"
              aria-label={`Take off: ${m.name}`}
              onClick={() => mark(marks.filter((_, k) => k !== i))}
            >
              <X size={16} aria-hidden="true" /> Take off
            </button>
          </fieldset>
        ))}
        {marks.length < 20 && (
          <button
            type="button"
            className="plain-button flex items-center gap-1.5 justify-self-start"
            onClick={() => mark([...marks, { name: "high water", at_min: plan.at_min + 240 }])}
          >
            <Plus size={16} aria-hidden="true" /> Add a tide or another time
          </button>
        )}
        {banks.length > 0 && (
          <fieldset className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            <legend className="sr-only">Batteries</legend>
            {banks.map((b) => (
              <Figure
                key={b.key}
                label={`In the ${b.name} at the start`}
                unit="%"
                value={(starts.find((s) => s.bank === b.key)?.soc ?? 1) * 100}
                onChange={(v) => charged(b.key, Math.min(1, v / 100))}
              />
            ))}
            <Figure
              label="Charged in nights between days"
              unit="h"
              value={plan.power?.night_charge_h ?? NIGHT}
              onChange={(h) => onPlan({ ...plan, power: { ...plan.power, night_charge_h: Math.min(24, h) } })}
            />
          </fieldset>
        )}
        {coolers.map((c, i) => (
          <fieldset key={c.place_id} className="grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-4">
            <legend className="sr-only">Ice {i + 1}</legend>
            <Choice
              label="Ice in"
              value={c.place_id}
              options={places.map((p) => [p.id, p.name] as const)}
              onChange={(id) => put(coolers.map((q, k) => (k === i ? { ...q, place_id: id } : q)))}
            />
            <Figure
              label="Ice at the start"
              unit={units.massUnit}
              value={c.ice_kg / units.massSI}
              onChange={(v) => put(coolers.map((q, k) => (k === i ? { ...q, ice_kg: v * units.massSI } : q)))}
            />
            <Choice
              label="Its walls"
              value={String(c.ua_w_k)}
              options={
                WALLS.some(([v]) => v === String(c.ua_w_k)) ? WALLS : [...WALLS, [String(c.ua_w_k), "as learned"]]
              }
              onChange={(ua) => put(coolers.map((q, k) => (k === i ? { ...q, ua_w_k: Number(ua) } : q)))}
            />
            <button
              type="button"
              className="plain-button flex items-center gap-1.5 justify-self-start"
              onClick={() => put(coolers.filter((_, k) => k !== i))}
            >
              <X size={16} aria-hidden="true" /> No ice
            </button>
          </fieldset>
        ))}
        {places[0] && coolers.length < 10 && (
          <button
            type="button"
            className="plain-button flex items-center gap-1.5 justify-self-start"
            onClick={() => {
              const free = places.find((p) => !coolers.some((c) => c.place_id === p.id)) ?? places[0];
              if (free) put([...coolers, { place_id: free.id, ice_kg: 5, ua_w_k: 1 }]);
            }}
          >
            <Plus size={16} aria-hidden="true" /> Add ice
          </button>
        )}
      </div>
    </details>
  );
}
