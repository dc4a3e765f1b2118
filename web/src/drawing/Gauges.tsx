import type { Figures } from "../api/client";
import { signed, type Units } from "../domain/units";

type Props = { now: Figures; before?: Figures; then?: Figures; limit: number; units: Units };

/** Metres above and below the middle of a tape: the least that holds every change. */
const WINDOWS = [0.03, 0.06, 0.12, 0.3];

/**
 * Freeboards at the four corners, magnified: the middle line of each tape is
 * where the water stood before the last move, the slab is where it stands, and
 * a heavy line is where it would stand with the piece in hand put down.
 */
export function Gauges({ now, before, then, limit, units }: Props) {
  if (!now.attitude) return null;
  const largest = Math.max(
    ...now.attitude.gauges.flatMap((g, i) => {
      const was = before?.attitude?.gauges[i]?.m ?? g.m;
      return [g.m - was, (then?.attitude?.gauges[i]?.m ?? g.m) - was].map(Math.abs);
    }),
  );
  const window = WINDOWS.find((w) => w >= largest) ?? 0.3;
  return (
    <div className="grid grid-cols-4 gap-x-3" data-testid="gauges">
      {now.attitude.gauges.map((gauge, i) => {
        const was = before?.attitude?.gauges[i]?.m ?? gauge.m;
        const would = then?.attitude?.gauges[i]?.m;
        const shown = would ?? gauge.m;
        const change = would === undefined ? gauge.m - was : would - gauge.m;
        return (
          <div key={gauge.where} className="flex min-w-0 items-stretch gap-2" data-testid={`gauge-${gauge.where}`}>
            <Tape
              water={gauge.m - was}
              would={would === undefined ? undefined : would - was}
              units={units}
              window={window}
            />
            <div className="min-w-0">
              <div className="label-type quiet text-sm leading-tight">{gauge.where}</div>
              <div className={`figure-type text-xl leading-tight ${shown < limit ? "text-loud" : ""}`}>
                {units.small(shown)}
                <span className="pl-0.5 text-sm">{units.smallUnit}</span>
              </div>
              <div className="figure-type text-base leading-tight">
                {Math.abs(change) < 0.0005 ? "±0" : signed(units.small(change))}
              </div>
            </div>
          </div>
        );
      })}
    </div>
  );
}

function Tape({ water, would, units, window }: { water: number; would?: number; units: Units; window: number }) {
  const height = 84;
  const y = (m: number) => height / 2 + Math.max(-1, Math.min(1, m / window)) * (height / 2 - 2);
  const tick = (units.system === "us" ? 0.0127 : 0.01) * (window / 0.03);
  const ticks = [-2, -1, 0, 1, 2].map((i) => i * tick).filter((m) => Math.abs(m) < window);
  return (
    <svg width="26" height={height} aria-hidden="true" className="shrink-0">
      <rect x="0.5" y="0.5" width="25" height={height - 1} fill="var(--color-base-100)" stroke="var(--hair)" />
      <rect
        className="settles"
        x="1"
        width="24"
        height={height}
        fill="var(--water)"
        style={{ transform: `translateY(${y(water)}px)` }}
      />
      {ticks.map((m) => (
        <line
          key={m}
          x1="1"
          x2={m === 0 ? 25 : 8}
          y1={y(m)}
          y2={y(m)}
          stroke="currentColor"
          strokeWidth={m === 0 ? 1.1 : 0.8}
        />
      ))}
      {would !== undefined && <line x1="1" x2="25" y1={y(would)} y2={y(would)} stroke="currentColor" strokeWidth="3" />}
    </svg>
  );
}
