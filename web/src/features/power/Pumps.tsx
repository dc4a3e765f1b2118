import { Plus } from "lucide-react";
import type { Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { Amount } from "../../ui/Amount";
import { Checks, Choice, Loose } from "../../ui/Form";
import { type Circuit, figure, type Net, type Power } from "./net";

type Well = NonNullable<Net["wells"]>[number];
type Pump = NonNullable<Circuit["pump"]>;

/** What runs through her livewells and what that keeps; what leak her bilge pumps keep up with. */
export function Pumps({ power, units }: { power: Power; units: Units }) {
  if (power.wells.length === 0 && power.bilge.length === 0) return null;
  return (
    <section aria-label="Livewells and pumps" className="grid gap-2">
      <h2 className="label-type text-lg">Livewells and pumps</h2>
      {power.wells.map((w) => (
        <WellSaid key={w.key} w={w} units={units} />
      ))}
      {power.spare_aerator && <p className="text-sm leading-snug">{power.spare_aerator}</p>}
      {power.bilge.map((b) => (
        <p key={b.key} className="leading-snug">
          <b>{b.name}:</b>{" "}
          {b.flow_l_h > 0
            ? `${flow(units, b.flow_l_h)} through its hose: it keeps up with a hole of ${units.small(Math.floor(b.hole_mm ?? 0) / 1000)} ${units.smallUnit}, ${units.small(0.3)} ${units.smallUnit} under water.`
            : "nobody said what it moves."}
        </p>
      ))}
    </section>
  );
}

const flow = (units: Units, litres: number) => `${units.volume(litres)} ${units.volumeUnit} an hour`;

function WellSaid({ w, units }: { w: Schemas["WellView"]; units: Units }) {
  const keeps = Math.min(w.by_volume_kg, w.by_oxygen_kg);
  const mass = (kg: number) => `${units.mass(kg)} ${units.massUnit}`;
  return (
    <div className="border border-(--hair) bg-base-100 p-2 leading-snug">
      <p>
        <b>{w.name}</b>, {units.volume(w.litres)} {units.volumeUnit}, {mass(w.kg)} full
      </p>
      {w.pumps.length === 0 ? (
        <p className="quiet">No pump of hers fills it: say so at the pump's circuit.</p>
      ) : (
        <>
          <p className="text-lg">
            <b>Keeps {mass(keeps)} of fish</b> at {units.temperature(w.water_c)}
          </p>
          <p className="quiet text-sm">
            {mass(w.by_volume_kg)} by its litres, {mass(w.by_oxygen_kg)} by what they breathe, by practice. Its water is
            new {figure(w.turnover_h, 2)} times an hour, {flow(units, w.flow_l_h)}.
          </p>
        </>
      )}
      {w.night && (
        <p className="text-sm">
          By night the small pump alone: {figure(w.night.turnover_h, 2)} times an hour, {mass(w.night.keeps_kg)} of
          fish.
        </p>
      )}
      <p className="text-sm">
        {[
          w.fills_h && `Fills in ${minutes(w.fills_h)}`,
          w.drains_h && `drains in ${minutes(w.drains_h)}`,
          ...(w.scoop ?? [])
            .filter((s) => s.flow_l_h > 0)
            .slice(-1)
            .map((s) => `its scoop takes in ${flow(units, s.flow_l_h)} at top speed`),
        ]
          .filter(Boolean)
          .join("; ")}
      </p>
    </div>
  );
}

const minutes = (h: number) => `${Math.max(1, Math.round(h * 60))} min`;

/** Her livewells and bait tanks, as they are said. */
export function Wells({ power, net, units, onNet }: { power: Power; net: Net; units: Units; onNet: (n: Net) => void }) {
  const list = net.wells ?? [];
  const put = (wells: Well[]) => onNet({ ...net, wells: wells as NonNullable<Net["wells"]> });
  const set = (i: number, change: Partial<Well>) => put(list.map((w, k) => (k === i ? { ...w, ...change } : w)));
  const metres = { unit: units.lengthUnit, si: units.lengthSI };
  return (
    <details>
      <summary className="plain-button w-fit content-center px-4 py-2.5">
        Livewells and bait tanks: {list.length || "none"}
      </summary>
      <div className="grid gap-2 pt-2">
        {list.map((w, i) => (
          <fieldset key={w.key} className="grid grid-cols-2 gap-x-4 gap-y-1 border border-(--hair) bg-base-100 p-2">
            <legend className="sr-only">{w.name}</legend>
            <Loose label="Name" required max={60} value={w.name} onChange={(name) => set(i, { name })} />
            <Choice
              label="It is"
              value={w.tank ?? ""}
              options={[["", "none of her tanks"], ...power.tanks.map((t) => [t, t] as const)]}
              onChange={(tank) => set(i, { tank: tank || undefined })}
            />
            <Amount
              label="Holds to its overflow"
              unit={units.volumeUnit}
              si={units.volumeSI}
              usual={w.tank && "as the tank"}
              value={w.litres}
              onChange={(litres) => set(i, { litres })}
            />
            <Amount label="Depth of its water" {...metres} value={w.deep_m} onChange={(v) => set(i, { deep_m: v })} />
            <Amount label="Across its drain" unit="mm" value={w.drain_mm} onChange={(v) => set(i, { drain_mm: v })} />
            <Amount
              label="Across its scoop"
              unit="mm"
              usual="none"
              value={w.scoop_mm}
              onChange={(v) => set(i, { scoop_mm: v })}
            />
            <Amount
              label="Scoop lifts"
              {...metres}
              value={w.scoop_lift_m}
              onChange={(v) => set(i, { scoop_lift_m: v })}
            />
            <button
              type="button"
              className="min-h-11 cursor-pointer justify-self-start self-end underline"
              onClick={() => put(list.filter((_, k) => k !== i))}
            >
              Take it off
            </button>
          </fieldset>
        ))}
        <button
          type="button"
          className="plain-button flex items-center gap-1.5 justify-self-start"
          onClick={() => {
            const key = `well${[1, 2, 3, 4, 5, 6, 7, 8, 9].find((n) => !list.some((w) => w.key === `well${n}`))}`;
            const tank = power.tanks.find((t) => !list.some((w) => w.tank === t));
            put([...list, { key, name: tank ? "livewell" : "bait tank", ...(tank ? { tank } : { litres: 40 }) }]);
          }}
        >
          <Plus size={16} aria-hidden="true" /> A livewell or bait tank
        </button>
      </div>
    </details>
  );
}

const PUMPS = ["livewell", "bait", "aerator", "bilge", "washdown"];

type PumpProps = { net: Net; c: Circuit; units: Units; onChange: (pump: Circuit["pump"]) => void };

/** What a pump moves, and its hose. */
export function PumpForm({ net, c, units, onChange }: PumpProps) {
  if (!PUMPS.includes(c.kind) && !c.pump) return null;
  const p: Pump = c.pump ?? { open_l_h: 0 };
  const set = (change: Partial<Pump>) => onChange({ ...p, ...change });
  const metres = { unit: units.lengthUnit, si: units.lengthSI };
  const bilge = c.kind === "bilge";
  return (
    <fieldset className="grid gap-2">
      <legend className="label-type text-lg">What it moves</legend>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Amount
          label={`An hour, by its plate`}
          unit={units.volumeUnit}
          si={units.volumeSI}
          value={p.open_l_h}
          onChange={(v) => set({ open_l_h: v ?? 0 })}
        />
        <Amount
          label="Lifts at the most"
          {...metres}
          usual="3 m"
          value={p.shut_m}
          onChange={(v) => set({ shut_m: v })}
        />
        <Amount label="Lifts here" {...metres} value={p.lift_m} onChange={(v) => set({ lift_m: v })} />
        <Amount label="Hose" {...metres} value={p.hose_m} onChange={(v) => set({ hose_m: v })} />
        <Amount label="Hose inside" unit="mm" value={p.bore_mm} onChange={(v) => set({ bore_mm: v })} />
        <Amount label="Bends in it" value={p.bends} onChange={(v) => set({ bends: v && Math.round(v) })} />
        {bilge ? (
          <>
            <Amount
              label="It stands over the keel"
              {...metres}
              value={p.height_m}
              onChange={(v) => set({ height_m: v })}
            />
            <Loose
              label="Float switch tested"
              type="date"
              value={p.float_tested_on ?? ""}
              onChange={(v) => set({ float_tested_on: v || undefined })}
            />
          </>
        ) : (
          <Choice
            label="Fills"
            value={p.well ?? ""}
            options={[["", "no livewell"], ...(net.wells ?? []).map((w) => [w.key, w.name] as const)]}
            onChange={(well) => set({ well: well || undefined })}
          />
        )}
      </div>
      {!bilge && (
        <Checks
          all={[["night", "the small one that runs by night in the other's stead"]]}
          on={() => Boolean(p.night)}
          set={(_, on) => set({ night: on || undefined })}
        />
      )}
      {bilge && <p className="quiet text-sm">Its hose short and straight, without sags that hold water.</p>}
    </fieldset>
  );
}
