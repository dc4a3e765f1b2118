import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { clock } from "../../domain/clock";
import { useSize } from "../../ui/useSize";
import { type Lane, LaneCurve, PeopleLane } from "./lanes";
import type { Answer, Plan } from "./moments";

type Props = {
  answer: Answer;
  plan: Plan;
  lanes: Lane[];
  people: { id: string; mark: string }[];
  posts: { id: string; at_m: number[] }[];
  at: number;
  onAt: (min: number) => void;
  chosen: number | undefined;
  onChoose: (phase: number | undefined) => void;
  onHours?: (phase: number, hours: number) => void;
};

const PHASE = 34;
const RULER = 22;
const LANE = 56;
const PEOPLE = 62;
const STEP = 5; // minutes of a press

/** The day from left to right: its phases, what changes in them, and the moment that is looked at. */
export function TimeLine(props: Props) {
  const { answer, lanes, people, posts, at, onAt, chosen, onChoose } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const first = answer.phases[0]?.from_min ?? 0;
  const last = answer.phases.at(-1)?.to_min ?? 60;
  const narrow = width < 620;
  const left = narrow ? 10 : 96;
  const right = Math.max(width - 10, left + 60);
  const x = (min: number) => left + ((min - first) / Math.max(last - first, 1)) * (right - left);
  const minuteAt = (clientX: number) => {
    const rect = svg.current?.getBoundingClientRect();
    const px = clientX - (rect?.left ?? 0);
    return Math.min(last, Math.max(first, first + ((px - left) / (right - left)) * (last - first)));
  };
  const lanesTop = RULER + PHASE + 8;
  const lane = LANE + (narrow ? 16 : 0); // on a phone its name stands over it
  const peopleTop = lanesTop + lanes.length * lane;
  const height = peopleTop + (people.length > 0 ? PEOPLE + (narrow ? 16 : 0) : 0) + 26;
  const scrub = (e: PointerEvent) => {
    if (e.buttons === 1 || e.pointerType !== "mouse") onAt(minuteAt(e.clientX));
  };
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP, PageUp: 60, PageDown: -60 }[e.key];
    const to = by !== undefined ? at + by : e.key === "Home" ? first : e.key === "End" ? last : undefined;
    if (to === undefined) return;
    e.preventDefault();
    onAt(Math.min(last, Math.max(first, to)));
  };
  const hours = [];
  const every = (last - first) / 60 > 30 ? 6 : narrow || (last - first) / 60 > 16 ? 3 : 1;
  for (let h = Math.ceil(first / 60); h <= last / 60; h++) if (h % every === 0) hours.push(h * 60);
  return (
    <div ref={box} className="min-w-0">
      {width > 0 && (
        <svg ref={svg} width={width} height={height} className="block touch-pan-y select-none" data-testid="time-line">
          <title>The day from left to right</title>
          {hours.map((m) => (
            <g key={m}>
              <path d={`M${x(m)} ${RULER}V${height - 24}`} stroke="var(--hair)" strokeWidth="0.7" />
              <text x={x(m)} y={15} textAnchor="middle" fontSize="14" className="figure-type" fill="var(--quiet)">
                {clock(m).split(" ")[0]}
              </text>
            </g>
          ))}
          <Light answer={answer} x={x} height={height} first={first} last={last} />
          <rect
            x={left}
            y={lanesTop}
            width={right - left}
            height={height - lanesTop - 24}
            fill="transparent"
            className="cursor-ew-resize"
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              onAt(minuteAt(e.clientX));
            }}
            onPointerMove={scrub}
          />
          <g pointerEvents="none">
            {lanes.map((l, i) => (
              <g key={l.key}>
                <LaneName name={l.name} unit={l.unit} narrow={narrow} top={lanesTop + i * lane} />
                <LaneCurve
                  lane={l}
                  answer={answer}
                  x={x}
                  top={lanesTop + i * lane + (narrow ? 16 : 0)}
                  height={LANE}
                  right={right}
                />
                <path
                  d={`M${narrow ? 0 : 4} ${lanesTop + (i + 1) * lane}H${right}`}
                  stroke="var(--hair)"
                  strokeWidth="0.8"
                />
              </g>
            ))}
            {people.length > 0 && (
              <>
                <LaneName name="People" unit="stern to bow" narrow={narrow} top={peopleTop} />
                <PeopleLane
                  answer={answer}
                  posts={posts}
                  people={people}
                  x={x}
                  top={peopleTop + (narrow ? 16 : 0)}
                  height={PEOPLE}
                />
              </>
            )}
          </g>
          {answer.phases.map((p, i) => (
            <PhaseBox
              // biome-ignore lint/suspicious/noArrayIndexKey: a phase is its place in the day
              key={i}
              name={p.name}
              from={x(p.from_min)}
              to={x(p.to_min)}
              words={`${p.name}, ${clock(p.from_min)} to ${clock(p.to_min)}`}
              chosen={chosen === i}
              onChoose={() => {
                onChoose(chosen === i ? undefined : i);
                onAt((p.from_min + p.to_min) / 2);
              }}
              onDrag={
                props.onHours && !props.plan.phases[i]?.leg
                  ? (clientX) =>
                      props.onHours?.(i, Math.max(0, Math.round((minuteAt(clientX) - p.from_min) / STEP) * STEP) / 60)
                  : undefined
              }
            />
          ))}
          <g pointerEvents="none">
            <path d={`M${x(at)} ${RULER + PHASE}V${height - 22}`} stroke="var(--color-accent)" strokeWidth="2" />
          </g>
          <g
            role="slider"
            tabIndex={0}
            aria-label="Moment of the day"
            aria-valuemin={Math.round(first)}
            aria-valuemax={Math.round(last)}
            aria-valuenow={Math.round(at)}
            aria-valuetext={clock(at)}
            className="cursor-ew-resize"
            onKeyDown={keys}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={scrub}
          >
            <rect
              x={Math.min(Math.max(x(at) - 28, 0), width - 56)}
              y={height - 24}
              width="56"
              height="23"
              rx="2"
              fill="var(--color-accent)"
            />
            <text
              x={Math.min(Math.max(x(at), 28), width - 28)}
              y={height - 7}
              textAnchor="middle"
              fontSize="16"
              className="figure-type"
              fill="var(--color-accent-content)"
            >
              {clock(at).split(" ")[0]}
            </text>
          </g>
        </svg>
      )}
    </div>
  );
}

function LaneName({ name, unit, narrow, top }: { name: string; unit: string; narrow: boolean; top: number }) {
  return narrow ? (
    <text x="10" y={top + 14} fontSize="15" className="label-type" fill="currentColor">
      {name} <tspan fill="var(--quiet)">{unit}</tspan>
    </text>
  ) : (
    <g>
      <text x="4" y={top + 22} fontSize="16" className="label-type" fill="currentColor">
        {name}
      </text>
      <text x="4" y={top + 38} fontSize="13" className="label-type" fill="var(--quiet)">
        {unit}
      </text>
    </g>
  );
}

/** Night, shaded. */
function Light(props: { answer: Answer; x: (min: number) => number; height: number; first: number; last: number }) {
  const { answer, x, height, first, last } = props;
  const light = answer.light;
  if (!light || light.rise_min === undefined || light.set_min === undefined) return null;
  const dark: [number, number][] = [];
  for (let day = -1; day * 1440 < last; day++)
    dark.push([light.set_min + day * 1440, light.rise_min + (day + 1) * 1440]);
  return (
    <g pointerEvents="none" fill="currentColor" fillOpacity="0.07">
      {dark.map(([a, b]) => {
        const [from, to] = [Math.max(a, first), Math.min(b, last)];
        return to > from ? (
          <rect key={a} x={x(from)} y={RULER} width={x(to) - x(from)} height={height - RULER - 24} />
        ) : null;
      })}
    </g>
  );
}

type BoxProps = {
  name: string;
  words: string;
  from: number;
  to: number;
  chosen: boolean;
  onChoose: () => void;
  onDrag?: (clientX: number) => void;
};

/** A phase on the line; its end can be dragged. */
function PhaseBox({ name, words, from, to, chosen, onChoose, onDrag }: BoxProps) {
  const wide = Math.max(to - from - 2, 2);
  const room = Math.floor((wide - 8) / 6.4);
  return (
    <g>
      <g
        role="button"
        tabIndex={0}
        aria-label={words}
        aria-pressed={chosen}
        className="cursor-pointer"
        onClick={onChoose}
        onKeyDown={(e) => {
          if (e.key === "Enter" || e.key === " ") {
            e.preventDefault();
            onChoose();
          }
        }}
      >
        <title>{words}</title>
        <rect x={from + 1} y={RULER - 4} width={wide} height={PHASE + 8} fill="transparent" />
        <rect
          x={from + 1}
          y={RULER}
          width={wide}
          height={PHASE}
          fill={chosen ? "var(--color-primary)" : "var(--color-base-200)"}
          stroke="currentColor"
          strokeWidth="1"
        />
      </g>
      {room > 2 && (
        <text
          x={(from + to) / 2}
          y={RULER + 22}
          textAnchor="middle"
          fontSize="15"
          aria-hidden="true"
          className="pointer-events-none label-type"
          fill={chosen ? "var(--color-primary-content)" : "currentColor"}
        >
          {name.length > room ? `${name.slice(0, Math.max(room - 1, 1))}…` : name}
        </text>
      )}
      {onDrag && (
        <rect
          x={to - 6}
          y={RULER}
          width="11"
          height={PHASE}
          fill="transparent"
          className="cursor-col-resize touch-none"
          data-drag={name}
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={(e) => e.buttons === 1 && onDrag(e.clientX)}
        />
      )}
    </g>
  );
}
