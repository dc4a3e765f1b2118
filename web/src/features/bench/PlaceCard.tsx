import { X } from "lucide-react";
import { Link } from "react-router";
import type { Bench, Place } from "../../api/client";
import type { Units } from "../../domain/units";
import { type HandLaid, Layers } from "./Layers";
import type { useHand } from "./useHand";

type Props = {
  bench: Bench;
  place: Place;
  units: Units;
  mayMove: boolean;
  carrying: ReturnType<typeof useHand>;
  onLay: (lay: HandLaid) => void;
  onAnew: () => void;
  onClose: () => void;
};

/** What lies in a place, each piece to be picked up from here. */
export default function PlaceCard({ bench, place, units, mayMove, carrying, onLay, onAnew, onClose }: Props) {
  const within = bench.state.stowage.filter((s) => s.place_id === place.id && !s.inside_id);
  const gear = within.map((s) => bench.gear.find((g) => g.id === s.gear_id)).filter((g) => g !== undefined);
  const mass = (id: string) => within.find((s) => s.gear_id === id)?.kg ?? 0;
  const kg = within.reduce((sum, s) => sum + s.kg, 0);
  const held = (id: string) => bench.state.stowage.filter((s) => s.inside_id === id).length;
  const against = (id: string) => within.find((s) => s.gear_id === id)?.against ?? [];
  const size = place.size_m.map((m) => units.side(m)).join(" × ");
  return (
    <section aria-label={place.name} className="flex min-h-0 flex-col bg-base-200">
      <header className="hairline-b flex items-start justify-between gap-2 px-4 pt-3 pb-2">
        <div>
          <h2 className="label-type text-xl leading-tight">{place.name}</h2>
          <p className="quiet text-sm leading-snug">
            {size} {units.sideUnit}, {place.dryness}
            <br />
            {units.mass(kg, 1)}
            {place.max_kg > 0 ? ` of ${units.mass(place.max_kg)}` : ""} {units.massUnit}
          </p>
          {place.max_kg > 0 && kg > place.max_kg + 0.001 && (
            <p className="text-loud text-sm">
              <b>
                Overloaded by {units.mass(kg - place.max_kg, 1)} {units.massUnit}.
              </b>
            </p>
          )}
          {place.leaves_hull_by_m > 0.001 && (
            <p className="text-loud text-sm">
              It stands out of the hull by {units.small(place.leaves_hull_by_m)} {units.smallUnit} {place.leaves_hull}:
              measure it again.
            </p>
          )}
        </div>
        <button
          type="button"
          className="grid size-11 cursor-pointer place-items-center"
          onClick={onClose}
          aria-label="Back to the quay"
        >
          <X size={20} />
        </button>
      </header>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        <li>
          <Layers
            key={place.id}
            bench={bench}
            place={place}
            numbers={new Map(gear.map((g, i) => [g.id, i + 1]))}
            onLay={mayMove && (place.form ?? "box") === "box" ? onLay : undefined}
            onAnew={onAnew}
          />
        </li>
        {gear.length === 0 && <li className="quiet px-4 py-3">Empty.</li>}
        {gear.map((g, i) => (
          <li key={g.id} className="hairline-b flex min-h-11 flex-wrap items-center justify-between gap-x-2 px-4 py-1">
            <Link to={`/gear/${g.id}`} className="min-w-0 flex-1 leading-tight hover:underline">
              <span className="figure-type quiet">{i + 1}</span> {g.name}
              {g.count > 1 ? ` × ${g.count}` : ""}
              <span className="quiet block text-sm">
                {units.mass(mass(g.id), 1)} {units.massUnit}
                {held(g.id) > 0 ? `, holds ${held(g.id)}` : ""}
              </span>
            </Link>
            <button
              type="button"
              className="plain-button whitespace-nowrap"
              disabled={!mayMove}
              aria-label={`Pick up ${g.name}`}
              onClick={() => carrying.pickUp({ kind: "gear", id: g.id })}
            >
              {carrying.hand?.id === g.id ? "Let go" : "Pick up"}
            </button>
            {against(g.id).length > 0 && (
              <p className="text-loud basis-full pt-1 text-sm leading-snug">
                Noted against a rule: {against(g.id).join(" ")}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
