import { useQuery } from "@tanstack/react-query";
import { askPower } from "../../api/askPower";
import type { Membership, Schemas } from "../../api/client";
import { Figure } from "../../ui/Figure";
import { Checks, Choice } from "../../ui/Form";
import type { Phase } from "./moments";

type Power = NonNullable<Phase["power"]>;
type Props = { me: Membership; boat: string; phase: Phase; onPower: (p: Power | undefined) => void };

const WHOLE = 100; // percent

/** What is otherwise than usual with her electrics in a phase. */
export function PhasePower({ me, boat, phase, onPower }: Props) {
  const power = useQuery(askPower.boat(me.crew_id, boat));
  const net = power.data?.net;
  if (!net || net.banks.length === 0) return null;
  const now: Power = phase.power ?? {};
  const set = (change: Partial<Power>) => {
    const next = { ...now, ...change };
    onPower(Object.values(next).some((v) => (Array.isArray(v) ? v.length > 0 : v)) ? next : undefined);
  };
  const turns = net.parts.filter((p) => p.kind === "selector" || p.kind === "switch");
  const dimmed = net.circuits.filter((c) => c.kind === "bow-motor" || c.kind === "lamps" || c.kind === "deck-light");
  return (
    <details>
      <summary className="min-h-11 cursor-pointer content-center underline">
        Batteries and switches{phase.power ? ": otherwise than usual" : ""}
      </summary>
      <div className="grid gap-2">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
          {turns.map((p) => (
            <Choice
              key={p.key}
              label={p.name}
              value={now.turned?.find((t) => t.part === p.key)?.to ?? ""}
              options={p.kind === "selector" ? SELECTS : SWITCHES}
              onChange={(to) => {
                const rest = (now.turned ?? []).filter((t) => t.part !== p.key);
                set({ turned: to ? [...rest, { part: p.key, to: to as Schemas["Turned"]["to"] }] : rest });
              }}
            />
          ))}
          {dimmed.map((c) => (
            <Figure
              key={c.key}
              label={`${c.name}, 0 is as usual`}
              unit="%"
              value={(now.settings?.find((s) => s.circuit === c.key)?.share ?? 0) * WHOLE}
              onChange={(v) => {
                const rest = (now.settings ?? []).filter((s) => s.circuit !== c.key);
                set({ settings: v > 0 ? [...rest, { circuit: c.key, share: Math.min(1, v / WHOLE) }] : rest });
              }}
            />
          ))}
        </div>
        <Checks
          all={[
            ["shore", "on the shore charger"],
            ...((net.chargers ?? []).some((c) => c.kind === "generator")
              ? ([["generator", "the generator runs"]] as const)
              : []),
          ]}
          on={(key) => Boolean(now[key as "shore"])}
          set={(key, on) => set({ [key]: on || undefined })}
        />
        <fieldset>
          <legend className="text-sm">Off in this phase</legend>
          <Checks
            all={net.circuits.map((c) => [c.key, c.name] as const)}
            on={(key) => (now.off ?? []).includes(key)}
            set={(key, on) => set({ off: on ? [...(now.off ?? []), key] : (now.off ?? []).filter((k) => k !== key) })}
          />
        </fieldset>
        <fieldset>
          <legend className="text-sm">On besides the usual</legend>
          <Checks
            all={net.circuits.map((c) => [c.key, c.name] as const)}
            on={(key) => (now.on ?? []).includes(key)}
            set={(key, on) => set({ on: on ? [...(now.on ?? []), key] : (now.on ?? []).filter((k) => k !== key) })}
          />
        </fieldset>
      </div>
    </details>
  );
}

const SELECTS: [string, string][] = [
  ["", "as before"],
  ["1", "1"],
  ["2", "2"],
  ["both", "both"],
  ["off", "off"],
];

const SWITCHES: [string, string][] = [
  ["", "as before"],
  ["on", "on"],
  ["off", "off"],
];
