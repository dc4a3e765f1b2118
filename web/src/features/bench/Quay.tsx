import { type KeyboardEvent, useRef } from "react";
import type { Bench, Gear } from "../../api/client";
import { howMany } from "../../domain/howMany";
import type { Units } from "../../domain/units";
import { hatchOf } from "../../drawing/Hatches";
import type { Hand, useHand } from "./useHand";
import { useTyping } from "./useTyping";

type Props = {
  bench: Bench;
  units: Units;
  mayMove: boolean;
  carrying: ReturnType<typeof useHand>;
  onPutHere: () => void;
};

/** What is not aboard: gear on the quay, and people ashore. */
export function Quay({ bench, units, mayMove, carrying, onPutHere }: Props) {
  const on = (id: string) => bench.state.stowage.find((s) => s.gear_id === id);
  const gear = bench.gear.filter((g) => on(g.id)?.kind === "quay" && !on(g.id)?.inside_id);
  const people = bench.state.people.filter((s) => !s.post_id);
  const kg = gear.reduce((sum, g) => sum + (on(g.id)?.kg ?? 0), 0);
  const list = useRef<HTMLUListElement>(null);
  const jump = useTyping();
  const keys = (e: KeyboardEvent) => {
    const all = [...(list.current?.querySelectorAll<HTMLButtonElement>("button:not([disabled])") ?? [])];
    const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    if (step) {
      e.preventDefault();
      all[Math.min(Math.max(at + step, 0), all.length - 1)]?.focus();
    } else jump(e, all);
  };
  const aimed = carrying.target?.kind === "ashore" && carrying.hand;
  return (
    <section
      aria-label="The quay"
      data-target="ashore"
      className={`flex min-h-0 flex-col bg-base-200 ${aimed ? "outline-2 -outline-offset-2 outline-base-content" : ""}`}
    >
      <header className="hairline-b px-4 pt-3 pb-2">
        <h2 className="label-type text-xl leading-tight">On the quay</h2>
        <div className="mt-1 flex min-h-11 items-center">
          {carrying.hand ? (
            <button
              type="button"
              className="plain-button w-full"
              onFocus={() => carrying.aim({ kind: "ashore" })}
              onPointerEnter={() => carrying.aim({ kind: "ashore" })}
              onClick={onPutHere}
            >
              {carrying.hand.kind === "gear" ? "Put it on the quay" : "Put ashore"}
            </button>
          ) : (
            <p className="quiet text-sm">
              {gear.length === 0
                ? bench.gear.length === 0
                  ? "No gear is listed yet."
                  : "Everything is aboard."
                : `${howMany(gear.length, "piece")}, ${units.mass(kg, 1)} ${units.massUnit} to go aboard`}
            </p>
          )}
        </div>
      </header>
      <ul id="quay" ref={list} className="min-h-0 flex-1 overflow-y-auto" onKeyDown={keys}>
        {gear.map((g) => (
          <li key={g.id}>
            <QuayRow
              bench={bench}
              gear={g}
              kg={on(g.id)?.kg ?? 0}
              units={units}
              mayMove={mayMove}
              carrying={carrying}
            />
          </li>
        ))}
        {bench.state.quay > gear.length && (
          <li className="quiet px-4 py-2 text-sm">and {bench.state.quay - gear.length} more, on the gear page</li>
        )}
      </ul>
      {people.length > 0 && (
        <div className="border-t border-(--hair) px-4 py-2">
          <h3 className="label-type quiet pb-1 text-sm">Ashore</h3>
          <div className="flex flex-wrap gap-1.5">
            {people.map((s) => {
              const m = bench.members.find((q) => q.id === s.member_id);
              const hand: Hand = { kind: "member", id: s.member_id, seated: s.seated };
              const held = carrying.hand?.id === s.member_id;
              return (
                <button
                  key={s.member_id}
                  type="button"
                  disabled={!mayMove || s.boat !== undefined}
                  aria-pressed={held}
                  className={`label-type min-h-11 cursor-pointer border border-base-content px-2.5 text-base ${held ? "bg-primary text-primary-content" : ""}`}
                  onPointerDown={(e) => carrying.press(e, hand)}
                  onClick={() => carrying.pickUp(hand)}
                >
                  {m?.mark} · {m?.name}
                  {s.boat ? `, in ${s.boat}` : ""}
                </button>
              );
            })}
          </div>
        </div>
      )}
    </section>
  );
}

type RowProps = {
  bench: Bench;
  gear: Gear;
  kg: number;
  units: Units;
  mayMove: boolean;
  carrying: ReturnType<typeof useHand>;
};

function QuayRow({ bench, gear, kg, units, mayMove, carrying }: RowProps) {
  const hand: Hand = { kind: "gear", id: gear.id };
  const held = carrying.hand?.id === gear.id;
  const owner = bench.members.find((m) => m.id === gear.owner_id);
  const about = [
    `${units.mass(kg, 1)} ${units.massUnit}`,
    owner?.mark,
    gear.needs_dry ? "keep dry" : undefined,
    gear.mass_known === "guess" ? "mass guessed" : undefined,
  ].filter(Boolean);
  return (
    <button
      type="button"
      disabled={!mayMove}
      aria-pressed={held}
      data-gear={gear.name}
      className={`hairline-b flex w-full items-center gap-3 px-4 py-1.5 text-left ${mayMove ? "cursor-grab" : ""} ${held ? "bg-primary text-primary-content" : "hover:bg-base-100"}`}
      onPointerDown={(e) => carrying.press(e, hand)}
      onClick={(e) => carrying.pickUp(hand, e.detail === 0)}
    >
      <TrueShape bench={bench} gear={gear} />
      <span className="min-w-0">
        <span className="block leading-tight">
          {gear.name}
          {gear.count > 1 ? ` × ${gear.count}` : ""}
        </span>
        <span className={`block text-sm leading-tight ${held ? "" : "quiet"}`}>{about.join(" · ")}</span>
      </span>
    </button>
  );
}

/** The piece as it lies, to one scale for the whole list, hatched for its owner. */
function TrueShape({ bench, gear }: { bench: Bench; gear: Gear }) {
  const scale = Math.min(50, 38 / gear.size_m[0], 30 / gear.size_m[1]);
  const width = Math.max(4, gear.size_m[0] * scale);
  const height = Math.max(4, gear.size_m[1] * scale);
  const hatch = hatchOf(bench.members, gear.owner_id);
  const box = { x: (40 - width) / 2, y: (32 - height) / 2, width, height };
  return (
    <svg width="40" height="32" aria-hidden="true" className="shrink-0 text-base-content">
      <rect {...box} fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.1" />
      {hatch && <rect {...box} fill={hatch} />}
    </svg>
  );
}
