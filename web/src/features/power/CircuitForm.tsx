import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Amount } from "../../ui/Amount";
import { Checks, Choice, Loose } from "../../ui/Form";
import { type Circuit, feeders, figure, type Net, type Power } from "./net";
import { gaugeOf } from "./OneLine";
import { PumpForm } from "./Pumps";

type Props = {
  power: Power;
  net: Net;
  c: Circuit;
  units: Units;
  drawing: boolean;
  onDraw: (on: boolean) => void;
  onChange: (c: Circuit) => void;
};

/** A circuit: what it feeds, what it draws, its wire and fuse; with what it needs. */
export function CircuitForm({ power, net, c, units, drawing, onDraw, onChange }: Props) {
  const usual = power.usual.find((u) => u.kind === c.kind);
  const set = (change: Partial<Circuit>) => onChange({ ...c, ...change });
  const mm = { unit: "mm" };
  const metres = { unit: units.lengthUnit, si: units.lengthSI };
  const motor = c.kind === "bow-motor";
  return (
    <>
      <Worked power={power} c={c} units={units} />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Loose label="Name" required max={60} value={c.name} onChange={(name) => set({ name })} />
        <Choice label="It is" value={c.kind} options={WORDS.load_kinds} onChange={(kind) => set({ kind })} />
        <Choice label="Hangs on" value={c.from} options={feeders(net)} onChange={(from) => set({ from })} />
        <Choice
          label="Feeds"
          value={c.fitting_id ?? ""}
          options={[["", "nothing that is listed"], ...power.fittings.map((f) => [f.id, f.name] as const)]}
          onChange={(id) => set({ fitting_id: id || undefined, gear_id: undefined })}
        />
        <Amount
          label={motor ? "Draws at full" : "Draws"}
          unit="A"
          usual={usual && `${usual.amps} at 12 V`}
          value={c.amps}
          onChange={(amps) => set({ amps })}
        />
        <Choice label="That is" value={c.known} options={WORDS.draw_known} onChange={(known) => set({ known })} />
        <Amount
          label="Share of the time, by a timer"
          unit="%"
          si={0.01}
          usual={usual && figure(usual.duty * 100)}
          value={c.duty}
          onChange={(duty) => set({ duty })}
        />
        {motor ? (
          <Amount
            label="Used at, of full"
            unit="%"
            si={0.01}
            usual="40"
            value={c.setting}
            onChange={(v) => set({ setting: v })}
          />
        ) : (
          <Amount label="Draws while stowed" unit="A" value={c.standing_a} onChange={(v) => set({ standing_a: v })} />
        )}
      </div>
      <When c={c} usual={usual?.when ?? ""} onChange={(on) => set({ on })} />
      <PumpForm net={net} c={c} units={units} onChange={(pump) => set({ pump })} />
      <h3 className="label-type text-lg">Wire and fuse</h3>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Choice
          label="Wire"
          value={c.mm2 ? gaugeOf(power, c.mm2) : ""}
          options={wires(power, c)}
          onChange={(name) =>
            set({ mm2: power.gauges.find((g) => g.name === name)?.mm2 ?? (name ? c.mm2 : undefined) })
          }
        />
        <Amount
          label="Its own fuse"
          unit="A"
          usual="none"
          value={c.fuse_a}
          onChange={(v) => set({ fuse_a: v, anyway: undefined })}
        />
        <Amount
          label="Length one way, measured"
          {...metres}
          usual="by its way"
          value={c.one_way_m}
          onChange={(v) => set({ one_way_m: v })}
        />
        <Amount label="Slack for what turns" {...metres} value={c.slack_m} onChange={(v) => set({ slack_m: v })} />
        <Amount
          label="Source to fuse"
          {...metres}
          value={c.from_source_m}
          onChange={(v) => set({ from_source_m: v })}
        />
        <Choice
          label="May lose"
          value={c.loses ?? ""}
          options={[["", usual?.must ? "3 %, as usual of it" : "10 %, as usual of it"], ...WORDS.wire_loses]}
          onChange={(v) => set({ loses: v || undefined })}
        />
        <Amount
          label="Conductors tied together"
          usual="2"
          value={c.bundle}
          onChange={(v) => set({ bundle: v && Math.round(v) })}
        />
        <Amount
          label="Insulation stands"
          unit="°C"
          usual="105"
          value={c.insulation_c}
          onChange={(v) => set({ insulation_c: v })}
        />
      </div>
      <Checks
        all={[
          ["sheathed", "in a sheath or conduit"],
          ["engine_space", "through the engine space"],
          ...(c.fuse_a ? ([["anyway", "fused so, though its wire does not stand it"]] as const) : []),
        ]}
        on={(key) => Boolean(c[key as "sheathed"])}
        set={(key, on) => set({ [key]: on || undefined })}
      />
      <DrawWay c={c} drawing={drawing} units={units} onDraw={onDraw} set={set} />
      <details>
        <summary className="plain-button w-fit content-center px-4 py-2.5">Connections, and who wired it</summary>
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 pt-2">
          <Loose
            label="Connector"
            max={60}
            value={c.connector ?? ""}
            onChange={(v) => set({ connector: v || undefined })}
          />
          <Amount
            label="Lowest connection over the keel"
            {...metres}
            value={c.connector_z_m}
            onChange={(v) => set({ connector_z_m: v })}
          />
          <Amount label="Across its plug" {...mm} value={c.plug_mm} onChange={(v) => set({ plug_mm: v })} />
          <Amount label="Narrowest hole on its way" {...mm} value={c.hole_mm} onChange={(v) => set({ hole_mm: v })} />
          <Loose
            label="Wired by"
            max={60}
            value={c.wired_by ?? ""}
            onChange={(v) => set({ wired_by: v || undefined })}
          />
          <Loose
            label="Looked at again by"
            max={60}
            value={c.checked_by ?? ""}
            onChange={(v) => set({ checked_by: v || undefined })}
          />
        </div>
        <Loose label="Note" max={300} value={c.note ?? ""} onChange={(v) => set({ note: v || undefined })} />
      </details>
    </>
  );
}

/** The wires that are sold, and the one that is there where it is none of them. */
function wires(power: Power, c: Circuit): [string, string][] {
  const sold = power.gauges.map((g): [string, string] => [
    g.name,
    g.metric ? g.name : `${g.name}, ${figure(g.mm2)} mm²`,
  ]);
  const there = c.mm2 ? gaugeOf(power, c.mm2) : "";
  if (there && !sold.some(([name]) => name === there)) sold.unshift([there, there]);
  return [["", "not said"], ...sold];
}

/** What its wire needs and does, in a sentence each. */
function Worked({ power, c, units }: { power: Power; c: Circuit; units: Units }) {
  const v = power.circuits.find((x) => x.key === c.key);
  if (!v) return null;
  const w = v.wire;
  if (w.why) return <p className="quiet leading-snug">{w.why} Measure it, or draw its way.</p>;
  const length = `${units.length(w.one_way_m)} ${units.lengthUnit} one way${w.length === "guess" ? ", a guess" : ""}`;
  const small = (m: number) => `${units.small(m)} ${units.smallUnit}`;
  return (
    <div className="grid gap-0.5 border-(--hair) border-y py-2 leading-snug" data-testid="worked">
      <p className="text-lg">
        <b>
          Needs {w.awg} AWG or {w.metric_mm2} mm², and {w.fuse_a} A
        </b>{" "}
        within {small(w.fuse_within_m)} of its source.
      </p>
      <p className="quiet text-sm">
        {figure(w.amps)} A{w.guess ? ", a guess," : ""} over {length}. Decided by{" "}
        {w.decided_by === "drop" ? `the ${figure(w.allowed * 100)} % it may lose` : "what the wire may carry"}; by
        circular mils {figure(w.circular_mils ?? 0, 4)}, which is {figure(w.circular_mils_mm2 ?? 0)} mm² against{" "}
        {figure(w.needs_mm2 ?? 0)}.
      </p>
      <p className="text-sm">
        {c.mm2 ? "Its wire" : "That wire"} loses {figure(w.drop_v ?? 0, 2)} V and may carry {figure(w.ampacity_a ?? 0)}{" "}
        A; a fuse of {Math.floor(w.fuse_max_a ?? 0)} A at most. Buy {units.length(w.buy_m)} {units.lengthUnit} for both
        conductors.
      </p>
    </div>
  );
}

function When({ c, usual, onChange }: { c: Circuit; usual: string; onChange: (on: Circuit["on"]) => void }) {
  const own = c.on !== undefined && c.on.length > 0;
  return (
    <fieldset>
      <legend className="text-sm">On: {own ? "in these phases of a day" : usual}</legend>
      <Checks
        all={[["own", "say it otherwise"], ...(own ? WORDS.phase_kinds : [])]}
        on={(key) => (key === "own" ? own : (c.on ?? []).includes(key as never))}
        set={(key, on) => {
          if (key === "own") onChange(on ? ["fish"] : undefined);
          else onChange(on ? [...(c.on ?? []), key as never] : (c.on ?? []).filter((x) => x !== key));
        }}
      />
    </fieldset>
  );
}

type WayProps = {
  c: Circuit;
  drawing: boolean;
  units: Units;
  onDraw: (on: boolean) => void;
  set: (change: Partial<Circuit>) => void;
};

/** The way of its wire: drawn on the plan, each point with its height. */
function DrawWay({ c, drawing, units, onDraw, set }: WayProps) {
  const route = c.route_m ?? [];
  const last = route.at(-1);
  return (
    <div className="flex flex-wrap items-end gap-2">
      <button type="button" className="plain-button" aria-pressed={drawing} onClick={() => onDraw(!drawing)}>
        {drawing ? "The way is drawn" : route.length > 0 ? "Draw on" : "Draw its way on the plan"}
      </button>
      {route.length > 0 && (
        <button type="button" className="plain-button" onClick={() => set({ route_m: route.slice(0, -1) })}>
          Take the last point back
        </button>
      )}
      {last && (
        <Amount
          label={`Height of point ${route.length} over the keel`}
          unit={units.lengthUnit}
          si={units.lengthSI}
          value={last[2]}
          onChange={(z) => set({ route_m: [...route.slice(0, -1), [last[0], last[1], z ?? 0]] })}
        />
      )}
      {drawing && (
        <p role="status" className="w-full">
          Press where the wire runs, from what it hangs on to the thing.
        </p>
      )}
    </div>
  );
}
