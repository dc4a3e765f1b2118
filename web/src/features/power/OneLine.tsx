import type { KeyboardEvent, ReactNode } from "react";
import { useSize } from "../../ui/useSize";
import { figure, type Net, nameOf, type Power } from "./net";

const ROW = 40;
const BROAD = 190; // from one column to the next, at the most
const HIGH = 34;
const LEFT = 8;
const TOP = 14;
const TEXT = 172; // room for what is said of a circuit

type Props = {
  p: Power;
  chosen?: string;
  wrong: Set<string>;
  onChoose: (key: string | undefined) => void;
};

/** Her electrics on one line, from the batteries on the left to what they feed on the right. */
export function OneLine({ p, chosen, wrong, onChoose }: Props) {
  const [box, { width: room }] = useSize<HTMLDivElement>();
  const d = p.diagram;
  const at = new Map([...d.parts, ...d.circuits].map((s) => [s.key, s]));
  const phone = room < 500;
  const least = phone ? 122 : 158;
  const wide = phone ? 100 : 128; // of a box
  const column = Math.min(BROAD, Math.max(least, (room - LEFT - TEXT) / Math.max(1, d.columns - 1)));
  const x = (n: number) => LEFT + n * column;
  const y = (row: number) => TOP + row * ROW + HIGH / 2;
  const circuit = p.circuits.find((c) => c.key === chosen);
  const way = new Set(circuit ? [circuit.key, ...circuit.way] : []);
  const dead = new Set(p.parts.find((q) => q.key === chosen)?.dies ?? []);
  const width = x(d.columns - 1) + TEXT;
  return (
    <div ref={box} className="min-w-0 overflow-x-auto overflow-y-hidden">
      <svg width={width} height={TOP * 2 + d.rows * ROW} role="group" aria-label="On one line" className="block">
        <g fill="none" stroke="currentColor">
          {d.lines.map((l) => {
            const from = at.get(l.from);
            const to = at.get(l.to);
            if (!from || !to) return null;
            const bend = l.lane ? x(to.column) - 14 : x(from.column) + wide + 12;
            const end = to.column === d.columns - 1 && dead.has(l.to) ? x(to.column) - 24 : x(to.column);
            const on = way.has(l.from) && way.has(l.to);
            return (
              <path
                key={`${l.from} ${l.to}`}
                d={`M${x(from.column) + wide} ${y(from.row)}H${bend}V${y(to.row)}H${end}`}
                strokeWidth={on ? 3.5 : 1.3}
                strokeDasharray={dead.has(l.to) ? "4 4" : undefined}
              />
            );
          })}
        </g>
        {d.parts.map((s) => (
          <Node
            key={s.key}
            x={x(s.column)}
            y={y(s.row)}
            wide={wide}
            name={nameOf(p.net, s.key)}
            says={partSays(p, s.key)}
            chosen={chosen === s.key}
            on={way.has(s.key)}
            wrong={wrong.has(s.key)}
            mark={markOf(p.net, s.key)}
            onChoose={() => onChoose(chosen === s.key ? undefined : s.key)}
          />
        ))}
        {d.circuits.map((s) => (
          <Leaf
            key={s.key}
            x={x(s.column)}
            y={y(s.row)}
            name={nameOf(p.net, s.key)}
            says={dead.has(s.key) ? "dies with it" : circuitSays(p, s.key)}
            chosen={chosen === s.key}
            dead={dead.has(s.key)}
            wrong={wrong.has(s.key)}
            onChoose={() => onChoose(chosen === s.key ? undefined : s.key)}
          />
        ))}
      </svg>
    </div>
  );
}

/** A few figures under a part's name. */
function partSays(p: Power, key: string): string {
  const bank = p.banks.find((b) => b.key === key);
  if (bank) return bank.known ? `${figure(bank.volts)} V, ${figure(bank.amp_hours)} Ah` : "not said what";
  const part = p.net.parts.find((q) => q.key === key);
  const used = p.parts.find((q) => q.key === key)?.used ?? 0;
  if (part?.rating_a) return `${figure(part.rating_a)} A`;
  if (part?.ways) return `${used} of ${part.ways} ways`;
  return { selector: "1, 2, both, off", switch: "on, off" }[part?.kind as string] ?? "";
}

function circuitSays(p: Power, key: string): string {
  const c = p.circuits.find((q) => q.key === key);
  const said = p.net.circuits.find((q) => q.key === key);
  if (!c || !said) return "";
  const wire = said.mm2 ? gaugeOf(p, said.mm2) : "wire not said";
  const fuse = said.fuse_a ? `${figure(said.fuse_a)} A fuse` : c.guard_a ? "" : "no fuse";
  return [fuse, `${figure(c.wire.amps)} A`, wire].filter(Boolean).join(", ");
}

/** A wire as it is sold: the gauge with that copper, or its area. */
export function gaugeOf(p: Power, mm2: number): string {
  return p.gauges.find((g) => Math.abs(g.mm2 / mm2 - 1) < 0.01)?.name ?? `${figure(mm2)} mm²`;
}

type NodeProps = {
  x: number;
  y: number;
  wide: number;
  name: string;
  says: string;
  chosen: boolean;
  on: boolean;
  wrong: boolean;
  mark: ReactNode;
  onChoose: () => void;
};

const pressed = (act: () => void) => (e: KeyboardEvent) => {
  if (e.key !== "Enter" && e.key !== " ") return;
  e.preventDefault();
  act();
};

function Node({ x, y, wide, name, says, chosen, on, wrong, mark, onChoose }: NodeProps) {
  const ink = chosen ? "var(--color-primary-content)" : "currentColor";
  return (
    <g>
      <Press name={name} says={says} chosen={chosen} onChoose={onChoose}>
        <rect
          x={x}
          y={y - HIGH / 2}
          width={wide}
          height={HIGH}
          fill={chosen ? "var(--color-primary)" : "var(--color-base-100)"}
          stroke={wrong ? "var(--color-accent)" : "currentColor"}
          strokeWidth={wrong || on ? 3 : 1.3}
        />
      </Press>
      <g aria-hidden="true" className="pointer-events-none">
        <g transform={`translate(${x + 14} ${y})`} fill="none" stroke={ink} strokeWidth="1.5">
          {mark}
        </g>
        <text x={x + 28} y={y - 2} fontSize="14" className="label-type" fill={ink}>
          {fitted(name, wide < 120 ? 13 : 17)}
        </text>
        <text x={x + 28} y={y + 12} fontSize="13" className="figure-type" fill={ink}>
          {says}
        </text>
      </g>
    </g>
  );
}

type LeafProps = Omit<NodeProps, "on" | "mark" | "wide"> & { dead: boolean };

function Leaf({ x, y, name, says, chosen, dead, wrong, onChoose }: LeafProps) {
  const over = chosen ? "var(--color-primary-content)" : undefined;
  return (
    <g>
      <Press name={name} says={says} chosen={chosen} onChoose={onChoose}>
        <rect
          x={x}
          y={y - ROW / 2 + 1}
          width={TEXT}
          height={ROW - 2}
          fill={chosen ? "var(--color-primary)" : "transparent"}
        />
      </Press>
      <g aria-hidden="true" className="pointer-events-none">
        {dead ? (
          <path d={`M${x - 30} ${y - 6}l12 12m0 -12l-12 12`} stroke="var(--color-accent)" strokeWidth="2.5" />
        ) : wrong ? (
          <path d={`M${x - 2} ${y}L${x + 5} ${y - 8}L${x + 12} ${y}L${x + 5} ${y + 8}Z`} fill="var(--color-accent)" />
        ) : (
          <circle cx={x + 5} cy={y} r="4" fill="currentColor" />
        )}
        <text
          x={x + 16}
          y={y - 2}
          fontSize="15"
          className="label-type"
          fill={over ?? (wrong ? "var(--loud-ink)" : "currentColor")}
        >
          {fitted(name, 32)}
        </text>
        <text x={x + 16} y={y + 13} fontSize="13" className="figure-type" fill={over ?? "var(--quiet)"}>
          {says}
        </text>
      </g>
    </g>
  );
}

type PressProps = Pick<NodeProps, "name" | "says" | "chosen" | "onChoose"> & { children: ReactNode };

/** What is pressed to choose something; its name stands beside it. */
function Press({ name, says, chosen, onChoose, children }: PressProps) {
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${name}, ${says}`}
      className="cursor-pointer"
      onClick={onChoose}
      onKeyDown={pressed(onChoose)}
    >
      <title>{`${name}, ${says}`}</title>
      {children}
    </g>
  );
}

function fitted(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, most - 1)}…` : text;
}

/** A mark of what stands in the line, told by its form. */
function markOf(net: Net, key: string): ReactNode {
  if (net.banks.some((b) => b.key === key)) return <path d="M-7 -8V8M-2 -4V4M3 -8V8M8 -4V4" />;
  switch (net.parts.find((p) => p.key === key)?.kind) {
    case "fuse":
      return <path d="M-8 -4H8V4H-8ZM-8 0H8" />;
    case "breaker":
      return <path d="M-8 3H-5M5 3H8M-6 2A7 7 0 0 1 6 2" />;
    case "switch":
      return <path d="M-8 3H-4L6 -6M4 3H8" />;
    case "selector":
      return <path d="M-8 -5H-4L4 0M-8 5H-4M4 0H8" />;
    case "panel":
      return <path d="M-7 -7H7V7H-7ZM-7 0H7M0 -7V7" />;
    default:
      return <path d="M0 -9V9" strokeWidth="4" />;
  }
}
