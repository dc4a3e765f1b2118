import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Bench, Figures } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { degrees, heelWords, signed, trimWords, type Units } from "../../domain/units";
import { OverPicture } from "../../drawing/OverPicture";

type Props = { bench: Bench; then?: Figures; units: Units };

/** The few figures that decide, each with its limit, its change and its reason. */
export function Tally({ bench, then, units }: Props) {
  return (
    <section aria-label="The tally" className="bg-base-200" data-testid="tally">
      {bench.state.now.over && (
        <OverPicture lines={bench.lines} over={bench.state.now.over} label={`${bench.name} as the figures have her`} />
      )}
      {rowsOf(bench, then, units).map((row) => (
        <TallyRow key={row.name} {...row} />
      ))}
      <Against bench={bench} />
      <Link className="flex min-h-11 items-center px-4 underline" to={`/boats/${bench.id}/float`}>
        When people move, heel and wind
      </Link>
    </section>
  );
}

/** What lies where a rule says no, since somebody noted it there. */
function Against({ bench }: { bench: Bench }) {
  const noted = bench.state.stowage.filter((s) => s.against && s.against.length > 0);
  if (noted.length === 0) return null;
  const name = (list: { id: string; name: string }[], id?: string) => list.find((q) => q.id === id)?.name;
  return (
    <div className="hairline-b px-4 py-2 text-sm">
      <b className="text-loud">Lies against a rule</b>
      {noted.map((s) => (
        <p key={s.gear_id} title={s.against?.join(" ")}>
          {name(bench.gear, s.gear_id)}, {name(bench.places, s.place_id)}
        </p>
      ))}
    </div>
  );
}

export type Row = {
  name: string;
  value: string;
  unit: string;
  held: string;
  change?: string;
  preview?: string;
  needsHand: boolean;
  reason: ReactNode;
};

const SOURCES = { plate: "plate", rule: "rule", skipper: "skipper's word", practice: "common practice" };

export function rowsOf(bench: Bench, then: Figures | undefined, units: Units): Row[] {
  const { now, before } = bench.state;
  const rows: Row[] = [];
  if (now.status !== "afloat" || !now.attitude) rows.push(dangerRow(now));
  for (const a of now.awash) {
    rows.push({
      name: `Water in the ${a.space}`,
      value: units.small(a.depth_m),
      unit: units.smallUnit,
      held: `the ${a.through} is under water`,
      needsHand: true,
      reason:
        "The sea stands in it and carries nothing there. Move weight away from that end, or plug the opening while you look.",
    });
  }
  if (now.attitude) rows.push(freeboardRow(bench, then, units), ...angleRows(bench, then));
  rows.push(loadRow(bench, now, before, then, units), rummageRow(now, before, then));
  return rows;
}

const STILL = "These are still-water figures: a wave needs more.";

function dangerRow(now: Figures): Row {
  const sunk = now.status === "swamped";
  const [value, held, reason] = now.over
    ? [
        "turns over",
        "she capsizes",
        `The weight is too high, or too far to a side. Move it low and amidships, and look at the heights in Set up. ${STILL}`,
      ]
    : sunk
      ? [
          "swamped",
          "an edge is at or under water",
          `With this load water comes in over an edge. Take weight out, or move it away from that end. ${STILL}`,
        ]
      : [
          "unstable",
          "she will not stay upright: this is the loll",
          `The weight is too high for her breadth. Move weight low, or let people sit. ${STILL}`,
        ];
  return { name: "Afloat?", value, unit: "", held: now.why ?? held, needsHand: true, reason };
}

function freeboardRow(bench: Bench, then: Figures | undefined, units: Units): Row {
  const { now, before } = bench.state;
  const limit = bench.limits.freeboard_m;
  const a = now.attitude;
  const m = a?.lowest.m ?? 0;
  const was = before?.attitude?.lowest.m;
  const next = then?.attitude?.lowest.m;
  return {
    name: "Lowest freeboard",
    value: units.small(m),
    unit: units.smallUnit,
    held: `at the ${a?.lowest.name} · at least ${units.small(limit.value)}, ${SOURCES[limit.source]}`,
    change: was === undefined ? undefined : changed(m - was, 0.0005, units.smallChange),
    preview: next === undefined ? undefined : units.small(next),
    needsHand: m < limit.value,
    reason: `One ${units.system === "us" ? "inch" : "centimetre"} of sinkage is ${units.mass((a?.kg_per_cm ?? 0) * (units.system === "us" ? 2.54 : 1))} ${units.massUnit}. Drafts: ${units.small(a?.draft_aft_m ?? 0)} aft, ${units.small(a?.draft_fwd_m ?? 0)} forward, ${units.smallUnit} over the keel's lowest point. Calm water; a wave needs more.`,
  };
}

function angleRows(bench: Bench, then: Figures | undefined): Row[] {
  const { now, before } = bench.state;
  const { heel_deg, trim_low_deg: low, trim_high_deg: high } = bench.limits;
  const heel = now.attitude?.heel_deg ?? 0;
  const trim = now.attitude?.trim_deg ?? 0;
  const was = before?.attitude;
  const next = then?.attitude;
  const gm = now.attitude?.gm_t_m ?? 0;
  return [
    {
      name: "Heel",
      value: degrees(Math.abs(heel)),
      unit: `° ${heelWords(heel)}`,
      held: `within ${degrees(heel_deg.value)}°, ${SOURCES[heel_deg.source]}`,
      change: was && changed(Math.abs(heel) - Math.abs(was.heel_deg), 0.05, (d) => signed(degrees(d))),
      preview: next && `${degrees(Math.abs(next.heel_deg))}° ${heelWords(next.heel_deg)}`,
      needsHand: Math.abs(heel) > heel_deg.value,
      reason: `Metacentric height ${gm.toFixed(2)} m, after what loose liquid takes off. Weight to the high side levels her.`,
    },
    {
      name: "Trim",
      value: degrees(Math.abs(trim)),
      unit: `° ${trimWords(trim)}`,
      held: `${degrees(low.value)}° to ${degrees(high.value)}° bow up, ${SOURCES[high.source]}`,
      change: was && changed(trim - was.trim_deg, 0.05, (d) => signed(degrees(d))),
      preview: next && `${degrees(Math.abs(next.trim_deg))}° ${trimWords(next.trim_deg)}`,
      needsHand: trim < low.value || trim > high.value,
      reason:
        trim > high.value
          ? "She sits by the stern. Move weight forward: the heaviest piece furthest aft first."
          : trim < low.value
            ? "She sits by the bow. Move weight aft."
            : "She sits as her crew wants her, at rest.",
    },
  ];
}

function loadRow(
  bench: Bench,
  now: Figures,
  before: Figures | undefined,
  then: Figures | undefined,
  units: Units,
): Row {
  const { plate } = bench;
  const has = plate.max_kg > 0;
  const over = has && now.plate_kg > plate.max_kg;
  const crowded = plate.max_persons > 0 && now.persons > plate.max_persons;
  const counted = plate.includes.join(", ");
  return {
    name: "Load",
    value: units.mass(has ? now.plate_kg : now.gear_kg),
    unit: has ? `of ${units.mass(plate.max_kg)} ${units.massUnit}` : `${units.massUnit} of gear`,
    held: has
      ? `${plate.source || "plate"} ${units.massLegal(plate.max_kg)} · ${now.persons} of ${howMany(plate.max_persons, "person", "people")}`
      : "no plate: she has no stated limit",
    change: before && changed(now.plate_kg - before.plate_kg, 0.05, (d) => signed(units.mass(d, 1))),
    preview:
      then && then.gear_kg + then.persons !== now.gear_kg + now.persons
        ? units.mass(has ? then.plate_kg : then.gear_kg)
        : undefined,
    needsHand: over || crowded,
    reason: `${has ? `The plate counts ${counted}. ` : ""}Gear ${units.mass(now.gear_kg, 1)} ${units.massUnit}. In all she displaces ${units.mass(now.displacement_kg)} ± ${units.mass(now.sigma_kg)} ${units.massUnit}; the doubt comes from what was not weighed.`,
  };
}

function rummageRow(now: Figures, before: Figures | undefined, then: Figures | undefined): Row {
  const m = now.rummage_min_per_day;
  return {
    name: "Rummage",
    value: m.toFixed(0),
    unit: "min a day",
    held: "fetching and stowing back, as often as each thing is used",
    change: before && changed(m - before.rummage_min_per_day, 0.05, (d) => signed(d.toFixed(1).replace("-", "−"))),
    preview:
      then && Math.abs(then.rummage_min_per_day - m) >= 0.05 ? `${then.rummage_min_per_day.toFixed(1)}` : undefined,
    needsHand: false,
    reason: (
      <>
        From the post where each is used: the walk, lids, bending, what lies on top, looking.{" "}
        <Link className="underline" to="plan">
          Find a plan
        </Link>
      </>
    ),
  };
}

function changed(d: number, least: number, say: (d: number) => string): string {
  return Math.abs(d) < least ? "±0" : say(d);
}

function TallyRow(row: Row) {
  return (
    <details className="hairline-b group px-4 py-2" data-tally={row.name} open={row.needsHand}>
      <summary className="cursor-pointer list-none">
        <div className="flex items-baseline justify-between">
          <span className={`label-type text-lg leading-tight ${row.needsHand ? "text-loud" : ""}`}>{row.name}</span>
          {row.needsHand && (
            <span className="label-type bg-accent px-1.5 text-sm text-accent-content">out of limits</span>
          )}
        </div>
        <div className="flex items-baseline justify-between gap-2">
          <span className={row.needsHand ? "text-loud" : ""}>
            <span className="figure-type text-[2rem] leading-none" data-value>
              {row.value}
            </span>{" "}
            <span className="figure-type text-lg">{row.unit}</span>
          </span>
          <span className="figure-type text-lg" title="Change by the last move" data-change>
            {row.change}
          </span>
        </div>
        {row.preview !== undefined && <div className="figure-type text-lg leading-tight">→ {row.preview}</div>}
        <div className="quiet text-sm leading-tight">{row.held}</div>
      </summary>
      <p className="pt-1.5 text-sm leading-snug">{row.reason}</p>
    </details>
  );
}

/** The same figures in one line, for a phone. */
export function TallyStrip({ bench, then, units }: Props) {
  const rows = rowsOf(bench, then, units);
  const short: Record<string, string> = { "Lowest freeboard": "Freeboard" };
  return (
    <div
      className="grid auto-cols-fr grid-flow-col gap-2 border-b border-base-content bg-base-200 px-3 py-1.5"
      data-testid="tally-strip"
    >
      {rows.map((row) => (
        <div key={row.name} className="min-w-0">
          <div className={`label-type text-sm leading-tight ${row.needsHand ? "text-loud" : "quiet"}`}>
            {short[row.name] ?? row.name}
            {row.needsHand ? " !" : ""}
          </div>
          <div className={`figure-type text-xl leading-tight ${row.needsHand ? "text-loud" : ""}`}>
            {row.value}
            <span className="pl-0.5 text-sm">
              {row.unit.split(" ")[0]?.startsWith("of") ? units.massUnit : row.unit.split(" ")[0]}
            </span>
          </div>
          <div className="figure-type quiet text-sm leading-tight">
            {row.preview ? `→ ${row.preview}` : (row.change ?? "")}
          </div>
        </div>
      ))}
    </div>
  );
}
