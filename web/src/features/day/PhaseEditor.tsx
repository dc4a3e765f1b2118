import { ArrowLeft, ArrowRight, Copy, Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import type { Membership, Schemas } from "../../api/client";
import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Figure } from "../../ui/Figure";
import { Choice, Loose } from "../../ui/Form";
import type { Phase, Plan } from "./moments";
import { PhasePower } from "./PhasePower";

type Props = {
  me: Membership;
  view: Schemas["DayView"];
  plan: Plan;
  index: number;
  units: Units;
  legs: string[];
  onPlan: (plan: Plan, chosen?: number) => void;
};

/** What a phase is: its kind and hours, who is where in it, what fills, what is caught. */
export function PhaseEditor({ me, view, plan, index, units, legs, onPlan }: Props) {
  const phase = plan.phases[index];
  if (!phase) return null;
  const put = (change: Partial<Phase>) =>
    onPlan({ ...plan, phases: plan.phases.map((p, i) => (i === index ? { ...p, ...change } : p)) });
  const swap = (by: number) => {
    const next = [...plan.phases];
    const [a, b] = [next[index], next[index + by]];
    if (!a || !b) return;
    next[index] = b;
    next[index + by] = a;
    const fixed = plan.fixed === index ? index + by : plan.fixed === index + by ? index : plan.fixed;
    onPlan({ ...plan, phases: next, fixed }, index + by);
  };
  const after = (p: Phase) => {
    const phases = [...plan.phases.slice(0, index + 1), p, ...plan.phases.slice(index + 1)];
    onPlan({ ...plan, phases, fixed: plan.fixed > index ? plan.fixed + 1 : plan.fixed }, index + 1);
  };
  const remove = () => {
    const phases = plan.phases.filter((_, i) => i !== index);
    const fixed = Math.min(plan.fixed > index ? plan.fixed - 1 : plan.fixed, phases.length - 1);
    onPlan({ ...plan, phases, fixed: Math.max(fixed, 0) }, Math.min(index, phases.length - 1));
  };
  const pace = view.boat?.sea
    ? { unit: "kn", si: 1852 / 3600 }
    : units.system === "us"
      ? { unit: "mph", si: 0.44704 }
      : { unit: "km/h", si: 1 / 3.6 };
  const afloat = phase.kind !== "load" && phase.kind !== "road";
  return (
    <section aria-label={`Phase ${phase.name}`} className="grid gap-3 border border-base-content bg-base-200 p-3">
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        <Choice label="Phase" value={phase.kind} options={WORDS.phase_kinds} onChange={(kind) => put({ kind })} />
        <Loose label="Called" value={phase.name} onChange={(name) => put({ name })} required />
        {legs.length > 0 && (
          <Choice
            label="Leg of the way"
            value={String(phase.leg ?? 0)}
            options={[["0", "none"], ...legs.map((l, i) => [String(i + 1), l] as const)]}
            onChange={(leg) => put({ leg: Number(leg) })}
          />
        )}
        {phase.leg ? (
          <p className="quiet self-end pb-2 text-sm">Hours and fuel are those of the leg.</p>
        ) : (
          <>
            <Figure label="Hours" unit="h" value={phase.h} onChange={(h) => put({ h })} />
            {phase.kind !== "load" && phase.kind !== "road" && (
              <Figure
                label="Speed, 0 is lying still"
                unit={pace.unit}
                value={(phase.speed_m_s ?? 0) / pace.si}
                onChange={(v) => put({ speed_m_s: v * pace.si })}
              />
            )}
          </>
        )}
      </div>
      {afloat && view.boat && (
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {view.people.map((who) => (
            <Choice
              key={who.id}
              label={who.name}
              value={whereIs(phase, who.id)}
              options={[
                ["", "as usual"],
                ...(view.boat?.posts.map((p) => [p.id, p.name] as const) ?? []),
                ["ashore", "ashore"],
              ]}
              onChange={(to) => put({ posts: posted(phase, who.id, to) })}
            />
          ))}
        </div>
      )}
      {afloat && view.boat && (
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {view.boat.tanks
            .filter((t) => t.kind !== "fuel")
            .map((t) => (
              <Choice
                key={t.name}
                label={t.name}
                value={String(phase.tanks?.find((q) => q.tank === t.name)?.fill ?? "")}
                options={levels(phase.tanks?.find((q) => q.tank === t.name)?.fill)}
                onChange={(fill) => put({ tanks: filled(phase, t.name, fill) })}
              />
            ))}
          <Figure
            label="Caught"
            unit={units.massUnit}
            value={(phase.catch?.[0]?.kg ?? 0) / units.massSI}
            onChange={(kg) => put({ catch: caught(phase, kg * units.massSI, phase.catch?.[0]?.place_id, view) })}
          />
          {(phase.catch?.[0]?.kg ?? 0) > 0 && (
            <Choice
              label="It goes into"
              value={phase.catch?.[0]?.place_id ?? ""}
              options={[["", "the livewell"], ...(view.boat.places.map((p) => [p.id, p.name] as const) ?? [])]}
              onChange={(id) => put({ catch: [{ kg: phase.catch?.[0]?.kg ?? 0, ...(id ? { place_id: id } : {}) }] })}
            />
          )}
        </div>
      )}
      {view.boat && <PhasePower me={me} boat={view.boat.id} phase={phase} onPower={(power) => put({ power })} />}
      <div className="flex flex-wrap gap-2">
        <Press name="Earlier" icon={<ArrowLeft size={16} />} off={index === 0} press={() => swap(-1)} />
        <Press
          name="Later"
          icon={<ArrowRight size={16} />}
          off={index === plan.phases.length - 1}
          press={() => swap(1)}
        />
        <Press
          name="Copy"
          icon={<Copy size={16} />}
          press={() => after({ ...phase, leg: 0, h: phase.leg ? 1 : phase.h })}
        />
        <Press name="Add after" icon={<Plus size={16} />} press={() => after({ kind: "fish", name: "fish", h: 1 })} />
        <Press name="Remove" icon={<Trash2 size={16} />} off={plan.phases.length === 1} press={remove} />
      </div>
    </section>
  );
}

function Press({ name, icon, off, press }: { name: string; icon: ReactNode; off?: boolean; press: () => void }) {
  return (
    <button type="button" className="plain-button flex items-center gap-1.5" disabled={off} onClick={press}>
      <span aria-hidden="true">{icon}</span> {name}
    </button>
  );
}

function whereIs(phase: Phase, person: string): string {
  const at = phase.posts?.find((p) => p.person === person);
  return at ? (at.post ?? "ashore") : "";
}

function posted(phase: Phase, person: string, to: string): NonNullable<Phase["posts"]> {
  const rest = (phase.posts ?? []).filter((p) => p.person !== person);
  return (to === "" ? rest : [...rest, to === "ashore" ? { person } : { person, post: to }]) as NonNullable<
    Phase["posts"]
  >;
}

const LEVELS: [string, string][] = [
  ["", "as it is"],
  ["0", "emptied"],
  ["0.25", "a quarter full"],
  ["0.5", "half full"],
  ["0.75", "three quarters full"],
  ["0.9", "filled"],
];

function levels(now: number | undefined): [string, string][] {
  if (now === undefined || LEVELS.some(([v]) => v === String(now))) return LEVELS;
  return [...LEVELS, [String(now), `${Math.round(now * 100)} % full`]];
}

function filled(phase: Phase, tank: string, fill: string): NonNullable<Phase["tanks"]> {
  const rest = (phase.tanks ?? []).filter((t) => t.tank !== tank);
  return (fill === "" ? rest : [...rest, { tank, fill: Number(fill), at_once: true }]) as NonNullable<Phase["tanks"]>;
}

/** What is caught goes where the last catch went, or into the first box with ice. */
function caught(
  phase: Phase,
  kg: number,
  into: string | undefined,
  view: Schemas["DayView"],
): NonNullable<Phase["catch"]> {
  if (kg <= 0) return [] as unknown as NonNullable<Phase["catch"]>;
  const place = into ?? (phase.catch?.length ? undefined : view.plan.coolers?.[0]?.place_id);
  return [{ kg, ...(place ? { place_id: place } : {}) }] as NonNullable<Phase["catch"]>;
}
