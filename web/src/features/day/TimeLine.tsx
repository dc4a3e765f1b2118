import { type KeyboardEvent, memo, type PointerEvent, useCallback, useMemo, useRef } from "react";
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

/** Where things stand on the line. */
type Geometry = ReturnType<typeof geometry>;

function geometry(answer: Answer, lanes: number, people: number, width: number) {
  const first = answer.phases[0]?.from_min ?? 0;
  const last = answer.phases.at(-1)?.to_min ?? 60;
  const narrow = width < 620;
  const left = narrow ? 10 : 96;
  const right = Math.max(width - 10, left + 60);
  const top = RULER + PHASE + 8;
  const name = narrow ? 16 : 0; // on a phone the name of a lane stands over it
  const lane = LANE + name;
  const peopleTop = top + lanes * lane;
  const height = peopleTop + (people > 0 ? PEOPLE + name : 0) + 26;
  const x = (min: number) => left + ((min - first) / Math.max(last - first, 1)) * (right - left);
  return { first, last, narrow, left, right, top, name, lane, peopleTop, height, x };
}

/** The day from left to right: its phases, what changes in them, and the moment that is looked at. */
export function TimeLine(props: Props) {
  const { answer, lanes, people, posts, at, onAt, chosen } = props;
  const [box, { width }] = useSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const g = useMemo(
    () => geometry(answer, lanes.length, people.length, width),
    [answer, lanes.length, people.length, width],
  );
  const { first, last, left, right, top, height, x } = g;
  const minuteAt = useCallback(
    (clientX: number) => {
      const px = clientX - (svg.current?.getBoundingClientRect().left ?? 0);
      return Math.min(g.last, Math.max(g.first, g.first + ((px - g.left) / (g.right - g.left)) * (g.last - g.first)));
    },
    [g],
  );
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
  const latest = useRef(props);
  latest.current = props;
  const choose = useCallback((i: number) => {
    const { answer, chosen, onChoose, onAt } = latest.current;
    const p = answer.phases[i];
    onChoose(chosen === i ? undefined : i);
    if (p) onAt((p.from_min + p.to_min) / 2);
  }, []);
  const drag = useCallback(
    (i: number, clientX: number) => {
      const from = latest.current.answer.phases[i]?.from_min ?? 0;
      latest.current.onHours?.(i, Math.max(0, Math.round((minuteAt(clientX) - from) / STEP) * STEP) / 60);
    },
    [minuteAt],
  );
  return (
    <div ref={box} className="relative min-w-0 contain-content">
      {width > 0 && (
        <svg ref={svg} width={width} height={height} className="block touch-pan-y select-none" data-testid="time-line">
          <title>The day from left to right</title>
          <Ruler answer={answer} g={g} />
          <Marks plan={props.plan} g={g} />
          <rect
            x={left}
            y={top}
            width={right - left}
            height={height - top - 24}
            fill="transparent"
            className="cursor-ew-resize"
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              onAt(minuteAt(e.clientX));
            }}
            onPointerMove={scrub}
          />
          <Lanes answer={answer} lanes={lanes} people={people} posts={posts} g={g} />
          <Phases
            answer={answer}
            plan={props.plan}
            g={g}
            chosen={chosen}
            choose={choose}
            drag={props.onHours && drag}
          />
        </svg>
      )}
      {width > 0 && (
        <div
          className="pointer-events-none absolute inset-y-0 left-0 w-0 will-change-transform"
          style={{ transform: `translateX(${x(at)}px)` }}
        >
          <div
            className="-left-px absolute w-0.5 bg-accent"
            style={{ top: RULER + PHASE, height: height - RULER - PHASE - 22 }}
          />
          <div
            role="slider"
            tabIndex={0}
            aria-label="Moment of the day"
            aria-valuemin={Math.round(first)}
            aria-valuemax={Math.round(last)}
            aria-valuenow={Math.round(at)}
            aria-valuetext={clock(at)}
            className="figure-type pointer-events-auto absolute h-6 w-14 cursor-ew-resize touch-none bg-accent text-center text-accent-content leading-6 contain-strict"
            style={{ top: height - 24, left: -28 + edge(x(at), width) }}
            onKeyDown={keys}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={scrub}
          >
            {clock(at).split(" ")[0]}
          </div>
        </div>
      )}
    </div>
  );
}

/** How far the moment's clock is moved in, so that it does not stick out at an end. */
function edge(x: number, width: number): number {
  return Math.max(28 - x, 0) - Math.max(x - (width - 28), 0);
}

/** The hours, and the night. What does not change while the moment moves is not drawn again. */
const Ruler = memo(function Ruler({ answer, g }: { answer: Answer; g: Geometry }) {
  const { first, last, narrow, height, x } = g;
  const long = (last - first) / 60;
  const every = long > 30 ? 6 : narrow || long > 16 ? 3 : 1;
  const hours = [];
  for (let h = Math.ceil(first / 60); h <= last / 60; h++) if (h % every === 0) hours.push(h * 60);
  return (
    <>
      {hours.map((m) => (
        <g key={m}>
          <path d={`M${x(m)} ${RULER}V${height - 24}`} stroke="var(--hair)" strokeWidth="0.7" />
          <text x={x(m)} y={15} textAnchor="middle" fontSize="14" className="figure-type" fill="var(--quiet)">
            {clock(m).split(" ")[0]}
          </text>
        </g>
      ))}
      <Light answer={answer} x={x} height={height} first={first} last={last} />
    </>
  );
});

/** The times that the crew knows: tides, a weigh-in. */
const Marks = memo(function Marks({ plan, g }: { plan: Plan; g: Geometry }) {
  return (plan.marks ?? [])
    .filter((m) => m.at_min >= g.first && m.at_min <= g.last)
    .map((m) => {
      const near = g.x(m.at_min) > g.right - 90;
      return (
        <g key={`${m.name} ${m.at_min}`} pointerEvents="none">
          <path
            d={`M${g.x(m.at_min)} ${RULER + PHASE}V${g.height - 24}`}
            stroke="currentColor"
            strokeDasharray="2 4"
            strokeWidth="1.4"
          />
          <text
            x={g.x(m.at_min) + (near ? -4 : 4)}
            y={g.height - 30}
            textAnchor={near ? "end" : "start"}
            fontSize="14"
            className="label-type"
            fill="currentColor"
          >
            {m.name}
          </text>
        </g>
      );
    });
});

type LanesProps = Pick<Props, "answer" | "lanes" | "people" | "posts"> & { g: Geometry };

const Lanes = memo(function Lanes({ answer, lanes, people, posts, g }: LanesProps) {
  const { narrow, top, name, lane, peopleTop, right, x } = g;
  return (
    <g pointerEvents="none">
      {lanes.map((l, i) => (
        <g key={l.key}>
          <LaneName name={l.name} unit={l.unit} narrow={narrow} top={top + i * lane} />
          <LaneCurve lane={l} answer={answer} x={x} top={top + i * lane + name} height={LANE} right={right} />
          <path d={`M${narrow ? 0 : 4} ${top + (i + 1) * lane}H${right}`} stroke="var(--hair)" strokeWidth="0.8" />
        </g>
      ))}
      {people.length > 0 && (
        <>
          <LaneName name="People" unit="stern to bow" narrow={narrow} top={peopleTop} />
          <PeopleLane answer={answer} posts={posts} people={people} x={x} top={peopleTop + name} height={PEOPLE} />
        </>
      )}
    </g>
  );
});

type PhasesProps = {
  answer: Answer;
  plan: Plan;
  g: Geometry;
  chosen: number | undefined;
  choose: (i: number) => void;
  drag?: (i: number, clientX: number) => void;
};

const Phases = memo(function Phases({ answer, plan, g, chosen, choose, drag }: PhasesProps) {
  return (
    <>
      {answer.phases.map((p, i) => (
        <PhaseBox
          // biome-ignore lint/suspicious/noArrayIndexKey: a phase is its place in the day
          key={i}
          name={p.name}
          from={g.x(p.from_min)}
          to={g.x(p.to_min)}
          words={`${p.name}, ${clock(p.from_min)} to ${clock(p.to_min)}`}
          chosen={chosen === i}
          onChoose={() => choose(i)}
          onDrag={drag && !plan.phases[i]?.leg ? (clientX) => drag(i, clientX) : undefined}
        />
      ))}
    </>
  );
});

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
