import type { Attitude, Schemas } from "../../api/client";

export type Answer = Schemas["DayAnswer"];
export type Moment = Schemas["MomentView"];
export type Plan = Schemas["DayPlan"];
export type Phase = Schemas["DayPhase"];
export type Reading = Schemas["ReadingView"];

/** The moments before and after a time, and how far it is between them, 0 to 1. */
export function around(moments: Moment[], at: number): [Moment, Moment, number] | undefined {
  const [first] = moments;
  if (!first) return undefined;
  let before = first;
  for (const m of moments) {
    if (m.at_min > at) {
      const whole = m.at_min - before.at_min;
      return [before, m, whole > 0 ? Math.max(0, (at - before.at_min) / whole) : 0];
    }
    before = m;
  }
  return [before, before, 0];
}

const between = (a: number, b: number, t: number) => a + (b - a) * t;

/** How she lies at a time: between two moments she is about half-way from one to the other. */
export function attitudeAt(moments: Moment[], at: number): Attitude | undefined {
  const found = around(moments, at);
  if (!found) return undefined;
  const [a, b, t] = found;
  if (!a.attitude) return undefined;
  if (!b.attitude || a.phase !== b.phase) return a.attitude;
  const [p, q] = [a.attitude, b.attitude];
  return {
    ...(t < 0.5 ? p : q),
    up: [between(p.up[0], q.up[0], t), between(p.up[1], q.up[1], t), between(p.up[2], q.up[2], t)],
    level_m: between(p.level_m, q.level_m, t),
    heel_deg: between(p.heel_deg, q.heel_deg, t),
    trim_deg: between(p.trim_deg, q.trim_deg, t),
    lowest: { ...p.lowest, m: between(p.lowest.m, q.lowest.m, t) },
  };
}

/** A figure of the moments at a time. */
export function valueAt(moments: Moment[], at: number, of: (m: Moment) => number): number {
  const found = around(moments, at);
  if (!found) return 0;
  const [a, b, t] = found;
  return a.phase === b.phase ? between(of(a), of(b), t) : of(a);
}

/** A time at which a moment is seen with its own phase: just inside of it. */
export function inside(answer: Answer, moment: number): number | undefined {
  const m = answer.moments[moment];
  const phase = m && answer.phases[m.phase];
  if (!m || !phase) return undefined;
  const hair = Math.min(0.5, (phase.to_min - phase.from_min) / 4);
  return Math.min(Math.max(m.at_min, phase.from_min + hair), phase.to_min - hair);
}

/** The phase at a time. */
export function phaseAt(answer: Answer, at: number): number {
  const i = answer.phases.findIndex((p) => at < p.to_min);
  return i < 0 ? answer.phases.length - 1 : i;
}
