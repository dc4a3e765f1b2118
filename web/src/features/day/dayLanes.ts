import type { Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import type { Lane } from "./lanes";
import type { Answer, Moment } from "./moments";

/** What is drawn through a day: always freeboard, trim and fuel; ice and heel where they matter. */
export function dayLanes(answer: Answer, view: Schemas["DayView"], units: Units): Lane[] {
  const limits = view.boat?.limits;
  const reading = (key: string) => answer.readings.find((r) => r.key === key);
  const marks = (...keys: string[]) =>
    keys.flatMap((k) => {
      const r = reading(k);
      return r && !r.kept && r.moment >= 0 ? [r.moment] : [];
    });
  const afloat = (of: (m: Moment) => number | undefined) => (m: Moment) => (m.attitude ? of(m) : undefined);
  const lanes: Lane[] = [
    {
      key: "freeboard",
      name: "Freeboard",
      unit: units.smallUnit,
      of: afloat((m) => m.attitude?.lowest.m),
      band: (m) => m.band_m,
      low: limits?.freeboard_m.value,
      text: units.small,
      marks: marks("swamps", "awash", "freeboard"),
    },
    {
      key: "trim",
      name: "Trim",
      unit: "° bow up",
      sign: "°",
      of: afloat((m) => m.attitude?.trim_deg),
      low: limits?.trim_low_deg.value,
      high: limits?.trim_high_deg.value,
      text: (v) => v.toFixed(1).replace("-", "−"),
      marks: marks("bow_down", "stern_down"),
    },
  ];
  const heel = reading("heel");
  if (heel && !heel.kept)
    lanes.push({
      key: "heel",
      name: "Heel",
      unit: "° starboard",
      sign: "°",
      of: afloat((m) => m.attitude?.heel_deg),
      low: -(limits?.heel_deg.value ?? 90),
      high: limits?.heel_deg.value,
      text: (v) => v.toFixed(1).replace("-", "−"),
      marks: marks("heel"),
    });
  if (reading("fuel"))
    lanes.push({
      key: "fuel",
      name: "Fuel",
      unit: units.volumeUnit,
      of: (m) => m.fuel_l,
      low: answer.reserve_l,
      limitWords: "to be left",
      text: (v) => (v / units.volumeSI).toFixed(units.system === "us" ? 1 : 0).replace("-", "−"),
      marks: marks("fuel"),
    });
  lanes.push(...bankLanes(answer, marks("power")));
  if (answer.moments.some((m) => m.ice_kg > 0))
    lanes.push({
      key: "ice",
      name: "Ice",
      unit: units.massUnit,
      of: (m) => m.ice_kg,
      text: (v) => units.mass(v),
      marks: marks("ice"),
    });
  return lanes;
}

/** The banks that run down; else the one that is nearest to it. */
function bankLanes(answer: Answer, worst: number[]): Lane[] {
  const over = (i: number) => Math.min(...answer.moments.map((m) => m.charge?.[i] ?? 1)) - (answer.banks[i]?.left ?? 0);
  const all = answer.banks.map((b, i) => ({ b, i }));
  const down = all.filter(({ b }) => !b.kept);
  const shown = down.length > 0 ? down : all.sort((x, y) => over(x.i) - over(y.i)).slice(0, 1);
  return shown.map(({ b, i }, k) => ({
    key: `bank ${b.key}`,
    name: b.name,
    unit: (answer.banks_day ?? 1) > 1 ? `% on day ${answer.banks_day}` : "%",
    sign: " %",
    of: (m) => m.charge?.[i],
    band: (m) => m.charge_band?.[i] ?? 0,
    low: b.left,
    limitWords: "to stay",
    text: (v) => (v * 100).toFixed(0),
    marks: k === 0 ? worst : [],
  }));
}
