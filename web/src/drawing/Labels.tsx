import type { Placed } from "./labels";

type Props = { placed: Placed[]; size?: number; inkOf?: (key: string) => string };

/** Names where placeLabels put them, with their leader lines. */
export function Labels({ placed, size = 12, inkOf }: Props) {
  return (
    <g aria-hidden="true" className="pointer-events-none" data-labels="">
      {placed.map((l) => (
        <g key={l.key} fill={inkOf?.(l.key) ?? "currentColor"}>
          {l.leader && (
            <g stroke="var(--quiet)">
              <line x1={l.leader[0][0]} y1={l.leader[0][1]} x2={l.leader[1][0]} y2={l.leader[1][1]} strokeWidth="0.8" />
              <circle cx={l.leader[1][0]} cy={l.leader[1][1]} r="1.6" fill="var(--quiet)" stroke="none" />
            </g>
          )}
          <Lines l={l} size={size} />
        </g>
      ))}
    </g>
  );
}

const BASELINE = 0.84; // of the letters' size, down from their top

function Lines({ l, size }: { l: Placed; size: number }) {
  const at = l.turned
    ? `translate(${l.x + BASELINE * size} ${l.y + l.height}) rotate(-90)`
    : `translate(${l.x} ${l.y + BASELINE * size})`;
  return (
    <text
      transform={at}
      fontSize={size}
      className="label-type"
      stroke="var(--color-base-100)"
      strokeWidth="3"
      paintOrder="stroke"
      data-label={l.lines.join(" ")}
    >
      {l.lines.map((line, i) => (
        <tspan key={line} x="0" y={i * size}>
          {line}
        </tspan>
      ))}
    </text>
  );
}
