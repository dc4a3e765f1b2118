import { unplan } from "../../drawing/planInput";
import { type Pixel, type Projection, path } from "../../drawing/projection";
import type { Circuit, Net, Power } from "./net";

type Props = {
  p: Projection;
  power: Power;
  net: Net;
  chosen?: string;
  wrong: Set<string>;
  onChoose: (key: string) => void;
  onPoint?: (at: [number, number]) => void; // a way is being drawn
};

/** The wires along the boat in plan and profile, with the banks and what stands in the lines. */
export function Wires({ p, power, net, chosen, wrong, onChoose, onPoint }: Props) {
  const plan = (v: number[]) => p.plan(v[0] ?? 0, v[1] ?? 0);
  const side = (v: number[]) => p.profile(v[0] ?? 0, v[2] ?? 0);
  const last = [...net.circuits].sort((a, b) => Number(a.key === chosen) - Number(b.key === chosen));
  return (
    <g>
      {last.map((c) => (
        <Wire
          key={c.key}
          c={c}
          views={[(c.route_m ?? []).map(plan), (c.route_m ?? []).map(side)]}
          chosen={c.key === chosen}
          wrong={wrong.has(c.key)}
          onChoose={() => onChoose(c.key)}
        />
      ))}
      {power.parts.map(
        (q) => q.at_m && <Spot key={q.key} at={plan(q.at_m)} bank={isBank(net, q.key)} on={q.key === chosen} />,
      )}
      {power.parts.map(
        (q) => q.at_m && <Spot key={q.key} at={side(q.at_m)} bank={isBank(net, q.key)} on={q.key === chosen} />,
      )}
      {onPoint && (
        <rect
          data-testid="way-area"
          x={0}
          y={p.planTop - 10}
          width={p.width}
          height={p.profileTop - p.planTop - 14}
          fill="transparent"
          className="cursor-crosshair"
          onPointerUp={(e) => onPoint(unplan(p, e))}
        />
      )}
    </g>
  );
}

function isBank(net: Net, key: string): boolean {
  return net.banks.some((b) => b.key === key);
}

function Spot({ at: [x, y], bank, on }: { at: Pixel; bank: boolean; on: boolean }) {
  const fill = on ? "var(--color-accent)" : "var(--color-base-100)";
  return bank ? (
    <g stroke="currentColor" strokeWidth="1.5" aria-hidden="true">
      <rect x={x - 11} y={y - 8} width="22" height="16" fill={fill} />
      <path d={`M${x - 7} ${y}h5M${x + 2} ${y}h5M${x + 4.5} ${y - 2.5}v5`} />
    </g>
  ) : (
    <rect
      x={x - 4}
      y={y - 4}
      width="8"
      height="8"
      fill={fill}
      stroke="currentColor"
      strokeWidth="1.3"
      aria-hidden="true"
    />
  );
}

type WireProps = { c: Circuit; views: Pixel[][]; chosen: boolean; wrong: boolean; onChoose: () => void };

function Wire({ c, views, chosen, wrong, onChoose }: WireProps) {
  const colour = wrong ? "var(--color-accent)" : "currentColor";
  return (
    <g aria-hidden="true" className="cursor-pointer" onClick={onChoose}>
      <title>{c.name}</title>
      {views.map((points, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the two views
        <g key={i} fill="none">
          <path d={path(points)} stroke="transparent" strokeWidth="12" />
          <path d={path(points)} stroke={colour} strokeWidth={chosen ? 3.5 : wrong ? 2 : 1} strokeLinejoin="round" />
          {chosen &&
            points.map(([x, y]) => (
              <circle
                key={`${x} ${y}`}
                cx={x}
                cy={y}
                r="3.5"
                fill="var(--color-base-100)"
                stroke={colour}
                strokeWidth="1.5"
              />
            ))}
          {points.length > 0 && (
            <circle cx={points.at(-1)?.[0]} cy={points.at(-1)?.[1]} r={chosen ? 5 : 3} fill={colour} stroke="none" />
          )}
        </g>
      ))}
    </g>
  );
}
