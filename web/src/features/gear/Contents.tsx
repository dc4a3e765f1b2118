import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Check } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { type GearRow, type Membership, sayError } from "../../api/client";
import { noteGear } from "../../api/moves";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { States } from "./GearPage";
import { MoveTo } from "./MoveTo";

/** What should be in here: tick what is, and say where the rest went. */
export function Contents({ me, rows }: { me: Membership; rows: GearRow[] }) {
  const [seen, setSeen] = useState<string[]>([]);
  const units = unitsOf(me.units);
  const kg = rows.reduce((sum, g) => sum + g.total_kg, 0);
  const mayChange = may(me, "move");
  if (rows.length === 0) return <p className="quiet">Nothing should be in here.</p>;
  return (
    <div>
      <p className="quiet">
        {howMany(rows.length, "entry", "entries")}, {units.mass(kg, 1)} {units.massUnit}.{" "}
        {mayChange &&
          (seen.length === rows.length
            ? "All there."
            : seen.length > 0
              ? `${seen.length} ticked.`
              : "Tick what is here.")}
      </p>
      <ul aria-label="What should be in here">
        {rows.map((g) => (
          <Item
            key={g.id}
            me={me}
            g={g}
            mass={`${units.mass(g.total_kg, 1)} ${units.massUnit}`}
            ticked={seen.includes(g.id)}
            onTick={mayChange ? () => setSeen((s) => [...s, g.id]) : undefined}
          />
        ))}
      </ul>
    </div>
  );
}

type ItemProps = { me: Membership; g: GearRow; mass: string; ticked: boolean; onTick?: () => void };

function Item({ me, g, mass, ticked, onTick }: ItemProps) {
  const queries = useQueryClient();
  const [moving, setMoving] = useState(false);
  const tick = useMutation({
    mutationFn: () => noteGear(me.crew_id, g.id, "seen"),
    onSuccess: () => {
      onTick?.();
      queries.invalidateQueries({ queryKey: ["gear", "find"] });
    },
  });
  return (
    <li className="hairline-b py-1">
      <div className="flex items-center gap-2">
        {onTick && (
          <button
            type="button"
            aria-label={ticked ? `${g.name} is here` : `Tick: ${g.name} is here`}
            aria-pressed={ticked}
            disabled={ticked || tick.isPending}
            className={`grid size-11 shrink-0 cursor-pointer place-items-center border border-base-content ${ticked ? "bg-primary text-primary-content" : ""}`}
            onClick={() => tick.mutate()}
          >
            {ticked && <Check size={22} aria-hidden="true" />}
          </button>
        )}
        <Link to={`/gear/${g.id}`} className="flex min-h-11 min-w-0 flex-1 items-center hover:underline">
          <span className="leading-tight">
            {g.name}
            {g.count !== 1 ? ` × ${g.count}` : ""}
            <States g={g} />
          </span>
        </Link>
        <span className="figure-type shrink-0">{mass}</span>
        {onTick && (
          <button
            type="button"
            className="plain-button shrink-0"
            aria-expanded={moving}
            onClick={() => setMoving(!moving)}
          >
            {moving ? "Close" : "Not here"}
          </button>
        )}
      </div>
      {tick.error && (
        <p role="alert" className="text-loud">
          {sayError(tick.error)}
        </p>
      )}
      {moving && (
        <div className="py-2">
          <MoveTo me={me} gear={{ id: g.id, name: g.name, version: g.spot.version }} />
        </div>
      )}
    </li>
  );
}
