import type { ReactNode } from "react";
import { type Pixel, path } from "../../drawing/projection";
import type { Answer, Moment } from "./moments";

/** A figure through the day, with what it is held to. */
export type Lane = {
  key: string;
  name: string;
  unit: string;
  /** What stands behind a marked figure where that is not its unit. */
  sign?: string;
  of: (m: Moment) => number | undefined;
  band?: (m: Moment) => number;
  low?: number;
  high?: number;
  limitWords?: string;
  text: (v: number) => string;
  /** Worst moments marked on it, where the limit is not kept. */
  marks: number[];
};

type Props = { lane: Lane; answer: Answer; x: (min: number) => number; top: number; height: number; right: number };

/** One lane: the figure in ink, loud where it is beyond its limit. */
export function LaneCurve({ lane, answer, x, top, height, right }: Props) {
  const values = answer.moments.flatMap((m) => lane.of(m) ?? []);
  const limits = [lane.low, lane.high].filter((v) => v !== undefined);
  if (values.length === 0) return null;
  const least = Math.min(...values, ...limits);
  const most = Math.max(...values, ...limits);
  const span = Math.max(most - least, Math.abs(most) * 0.05, 1e-6);
  const y = (v: number) => top + height - 8 - ((v - least) / span) * (height - 20);
  const pieces = runs(answer.moments, lane);
  return (
    <g>
      {limits.map((v) => (
        <g key={v}>
          <path
            d={`M${x(answer.phases[0]?.from_min ?? 0)} ${y(v)}H${right}`}
            stroke="var(--quiet)"
            strokeDasharray="5 4"
            strokeWidth="1"
          />
          <text
            x={v === lane.low && lane.high !== undefined ? x(answer.phases[0]?.from_min ?? 0) + 2 : right}
            y={y(v) - 4}
            textAnchor={v === lane.low && lane.high !== undefined ? "start" : "end"}
            fontSize="13"
            className="figure-type"
            fill="var(--quiet)"
          >
            {lane.text(v)}
            {lane.limitWords ? ` ${lane.limitWords}` : ""}
          </text>
        </g>
      ))}
      {pieces.map((run) => {
        const band = lane.band;
        const at = (m: Moment, d = 0): Pixel => [x(m.at_min), y((lane.of(m) ?? 0) + d)];
        const key = `${run[0]?.phase} ${run[0]?.at_min}`;
        return (
          <g key={key} fill="none" strokeWidth="2" strokeLinejoin="round">
            {band && (
              <path
                d={path([...run.map((m) => at(m, band(m))), ...[...run].reverse().map((m) => at(m, -band(m)))], true)}
                fill="var(--water)"
                fillOpacity="0.8"
                stroke="none"
              />
            )}
            <path d={path(run.map((m) => at(m)))} stroke="currentColor" />
            {loud(run, lane).map((part) => (
              <path
                key={part[0]?.at_min}
                d={path(part.map((m) => at(m)))}
                stroke="var(--color-accent)"
                strokeWidth="3.2"
              />
            ))}
          </g>
        );
      })}
      {lane.marks.map((i) => {
        const m = answer.moments[i];
        const v = m && lane.of(m);
        if (!m || v === undefined) return null;
        const near = x(m.at_min) > right - 90;
        return (
          <g key={i}>
            <circle cx={x(m.at_min)} cy={y(v)} r="5" fill="var(--color-accent)" />
            <text
              x={x(m.at_min) + (near ? -9 : 9)}
              y={y(v) + (y(v) > top + height / 2 ? -7 : 17)}
              textAnchor={near ? "end" : "start"}
              fontSize="17"
              className="figure-type"
              fill="var(--loud-ink)"
              stroke="var(--color-base-100)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              {lane.text(v)}
              {lane.sign ?? ` ${lane.unit}`}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** Moments that belong together: of phases in a row in which she has the figure. */
function runs(moments: Moment[], lane: Lane): Moment[][] {
  const list: Moment[][] = [];
  let open: Moment[] = [];
  for (const m of moments) {
    if (lane.of(m) === undefined) {
      if (open.length > 0) list.push(open);
      open = [];
    } else open.push(m);
  }
  if (open.length > 0) list.push(open);
  return list;
}

function beyond(v: number, lane: Lane): boolean {
  return (lane.low !== undefined && v < lane.low - 1e-9) || (lane.high !== undefined && v > lane.high + 1e-9);
}

/** The stretches of a run in which the limit is not kept. */
function loud(run: Moment[], lane: Lane): Moment[][] {
  const list: Moment[][] = [];
  let open: Moment[] = [];
  for (const m of run) {
    if (beyond(lane.of(m) ?? 0, lane)) open.push(m);
    else {
      if (open.length > 1) list.push(open);
      open = [];
    }
  }
  if (open.length > 1) list.push(open);
  return list;
}

/** Who is where: a line for each person, high towards the bow. */
export function PeopleLane({
  answer,
  posts,
  people,
  x,
  top,
  height,
}: {
  answer: Answer;
  posts: { id: string; at_m: number[] }[];
  people: { id: string; mark: string }[];
  x: (min: number) => number;
  top: number;
  height: number;
}) {
  const xs = posts.map((p) => p.at_m[0] ?? 0);
  const least = Math.min(...xs);
  const most = Math.max(...xs);
  const y = (post: string, k: number) => {
    const at = posts.find((p) => p.id === post)?.at_m[0] ?? least;
    return (
      top + height - 12 - ((at - least) / Math.max(most - least, 0.1)) * (height - 26) + (k - people.length / 2) * 4
    );
  };
  const lines: ReactNode[] = people.map((who, k) => {
    const points: Pixel[] = [];
    for (const p of answer.phases) {
      const at = p.at.find((q) => q.person === who.id);
      if (!at) continue;
      points.push([x(p.from_min) + 1, y(at.post, k)], [x(p.to_min) - 1, y(at.post, k)]);
    }
    const [first] = points;
    if (!first) return null;
    return (
      <g key={who.id}>
        <path
          d={path(points)}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.7"
          strokeDasharray={DASH[k % DASH.length]}
        />
        <text
          x={first[0] - 5 - (k % 2) * 11}
          y={first[1] + 5}
          textAnchor="end"
          fontSize="14"
          className="label-type"
          fill="currentColor"
        >
          {who.mark}
        </text>
      </g>
    );
  });
  return <g>{lines}</g>;
}

const DASH = ["", "7 3", "2 3", "9 3 2 3", "1 4", "14 4"];
