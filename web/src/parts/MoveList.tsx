import type { Schemas } from "../api/client";

type Props = {
  moves: Schemas["PlannedMove"][];
  /** Gear whose moves are left out. */
  without: string[];
  onWithout: (gear: string[]) => void;
  onPin?: (gear: string) => void;
};

/** Moves in order, as a checklist to take over whole or in part. */
export function MoveList({ moves, without, onWithout, onPin }: Props) {
  return (
    <ol>
      {moves.map((m, i) => (
        <li key={`${m.gear_id} ${m.from}`} className="hairline-b flex min-h-11 items-center gap-3 py-1">
          <label className="flex flex-1 cursor-pointer items-start gap-3 leading-tight">
            <input
              type="checkbox"
              className="mt-1 size-4 accent-(--color-base-content)"
              aria-label={`${m.name}: ${m.from} to ${m.to}`}
              checked={!without.includes(m.gear_id)}
              onChange={(e) =>
                onWithout(e.target.checked ? without.filter((g) => g !== m.gear_id) : [...without, m.gear_id])
              }
            />
            <span>
              <span className="figure-type">{i + 1}.</span> <b>{m.name}</b>: {m.from} → {m.to}
              <br />
              <span className="quiet text-sm">{m.why}</span>
            </span>
          </label>
          {onPin && (
            <button
              type="button"
              className="plain-button"
              aria-label={`Pin: ${m.name}`}
              onClick={() => onPin(m.gear_id)}
            >
              Pin
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}
