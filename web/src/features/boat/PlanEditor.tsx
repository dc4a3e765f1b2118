import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Place } from "../../api/client";
import { Labels } from "../../drawing/Labels";
import { placeLabels } from "../../drawing/labels";
import { centimetre, unplan } from "../../drawing/planInput";
import { type Pixel, type Projection, planBox, underTitle } from "../../drawing/projection";
import type { Box } from "./placeForm";

type Props = {
  p: Projection;
  hull: Pixel[];
  places: Place[];
  chosen?: string;
  box?: Box; // of the chosen or new place, as it is being edited
  drawing: boolean; // a drag draws a new place, wherever it begins
  onChoose: (id: string | undefined) => void;
  onDrawn: (box: Box) => void;
  onBox: (change: (box: Box) => Box) => void; // of the box as it is by then
  onSettled: () => void;
};

const EDGES = [
  [-1, -1],
  [-1, 0],
  [-1, 1],
  [0, -1],
  [0, 1],
  [1, -1],
  [1, 0],
  [1, 1],
] as const;

type Drag = {
  from: [number, number];
  box: Box;
  edge?: readonly [number, number];
  fresh?: boolean;
  began?: boolean; // the pointer moved far enough to mean it
};

/** So far a pointer must move, in metres on the plan, before a place goes with it: a press is no drag. */
const MEANT = 0.03;

/** Places on the plan: drawn by a drag, moved by their middle, sized by their handles, or by keys. */
export function PlanEditor({ p, hull, places, chosen, box, drawing, onChoose, onDrawn, onBox, onSettled }: Props) {
  const drag = useRef<Drag>(undefined);
  const [ghost, setGhost] = useState<Box>();
  const start = (e: PointerEvent<SVGElement>, box: Box, edge?: readonly [number, number]) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { from: unplan(p, e), box, edge };
  };
  const draw = (e: PointerEvent<SVGElement>) => {
    if (!drawing) return onChoose(undefined);
    e.currentTarget.setPointerCapture(e.pointerId);
    const [x, y] = unplan(p, e);
    drag.current = { from: [x, y], box: { x, y, length: 0, breadth: 0 }, fresh: true };
  };
  const move = (e: PointerEvent<SVGElement>) => {
    const d = drag.current;
    if (!d) return;
    const [x, y] = unplan(p, e);
    if (d.fresh) return setGhost(between(d.from, [x, y]));
    d.began ||= Math.hypot(x - d.from[0], y - d.from[1]) >= MEANT;
    if (!d.began) return;
    onBox(() => moved(d.box, x - d.from[0], y - d.from[1], d.edge));
  };
  const end = (e: PointerEvent<SVGElement>) => {
    const d = drag.current;
    drag.current = undefined;
    setGhost(undefined);
    if (!d) return;
    const [x, y] = unplan(p, e);
    if (d.fresh) {
      const drawn = between(d.from, [x, y]);
      if (drawn.length >= 0.05 && drawn.breadth >= 0.05) onDrawn(drawn);
    } else if (d.began) onSettled();
  };
  const follow = { onPointerMove: move, onPointerUp: end, onPointerCancel: end };
  const keys = (e: KeyboardEvent, id: string) => {
    if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      return onChoose(id);
    }
    if (chosen !== id) return;
    const step = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (!step) return;
    e.preventDefault();
    const [dx = 0, dy = 0] = step.map((s) => s * 0.01);
    const edge = e.shiftKey ? ([1, 1] as const) : undefined;
    onBox((b) => moved(b, dx, dy, edge));
  };
  const boxes = places.map((q) => rectOf(p, q.id === chosen && box ? box : planOf(q)));
  const { bounds, title } = underTitle(p);
  const placed = placeLabels(
    places.map((q, i) => ({
      key: q.id,
      text: q.name,
      box: boxes[i] as (typeof boxes)[number],
      leader: true,
    })),
    {
      bounds,
      marks: [title],
      solids: boxes,
      strokes: [hull],
      size: 12,
    },
  );
  const outside = new Set(places.filter((q) => q.leaves_hull_by_m > 0.001).map((q) => q.id));
  return (
    <g>
      <rect
        data-testid="plan-area"
        x={0}
        y={p.planTop - 10}
        width={p.width}
        height={p.bowUp ? p.profileTop - p.planTop - 16 : p.profileTop - p.planTop - 14}
        fill="transparent"
        className={drawing ? "cursor-crosshair touch-none" : ""}
        onPointerDown={draw}
        {...follow}
      />
      {[...places].sort(byTop).map((q) => {
        const here = q.id === chosen && box ? box : planOf(q);
        const r = rectOf(p, here);
        const out = q.leaves_hull_by_m > 0.001;
        return (
          <g key={q.id}>
            <g
              role="button"
              tabIndex={0}
              aria-pressed={q.id === chosen}
              aria-label={`${q.name}${out ? `, stands out of the hull by ${Math.round(q.leaves_hull_by_m * 100)} cm ${q.leaves_hull}` : ""}; arrows move it, with shift they size it`}
              data-place={q.name}
              className={`outline-none [&:focus-visible>rect]:stroke-accent [&:focus-visible>rect]:stroke-[3] ${drawing ? "pointer-events-none" : `cursor-move ${q.id === chosen ? "touch-none" : ""}`}`}
              onKeyDown={(e) => keys(e, q.id)}
              onKeyUp={(e) => e.key.startsWith("Arrow") && q.id === chosen && onSettled()}
              onClick={() => onChoose(q.id)}
              onPointerDown={(e) => {
                // The first press chooses: a stray drag moves nothing, and a finger can still scroll.
                if (q.id === chosen) start(e, planOf(q));
              }}
              {...follow}
            >
              <rect
                {...r}
                fill="var(--color-base-100)"
                fillOpacity={q.parent_id ? 0.9 : 0.75}
                stroke={out ? "var(--color-accent)" : "currentColor"}
                strokeWidth={q.id === chosen ? 2.4 : out ? 2 : 1}
              />
            </g>
          </g>
        );
      })}
      <Labels placed={placed} inkOf={(key) => (outside.has(key) ? "var(--loud-ink)" : "currentColor")} />
      {!chosen && box && <rect {...rectOf(p, box)} fill="none" stroke="var(--color-accent)" strokeWidth="2" />}
      {ghost && (
        <rect
          {...rectOf(p, ghost)}
          fill="var(--water)"
          fillOpacity="0.6"
          stroke="var(--color-accent)"
          strokeWidth="2"
          className="pointer-events-none"
        />
      )}
      {box &&
        !drawing &&
        EDGES.map(([ex, ey]) => {
          const [cx, cy] = p.plan(box.x + (box.length * (ex + 1)) / 2, box.y + (box.breadth * (ey + 1)) / 2);
          return (
            <g
              key={`${ex}${ey}`}
              data-handle={`${ex},${ey}`}
              className="cursor-pointer touch-none"
              onPointerDown={(e) => start(e, box, [ex, ey])}
              {...follow}
            >
              <circle cx={cx} cy={cy} r="14" fill="transparent" />
              <rect
                x={cx - 4}
                y={cy - 4}
                width="8"
                height="8"
                fill="var(--color-base-100)"
                stroke="var(--color-accent)"
                strokeWidth="2"
              />
            </g>
          );
        })}
    </g>
  );
}

function byTop(a: Place, b: Place): number {
  const depth = (q: Place) => (q.parent_id ? 1 : 0);
  return depth(a) - depth(b) || a.corner_m[2] + a.size_m[2] - b.corner_m[2] - b.size_m[2];
}

function planOf(q: Place): Box {
  return { x: q.corner_m[0], y: q.corner_m[1], length: q.size_m[0], breadth: q.size_m[1] };
}

function rectOf(p: Projection, b: Box) {
  return planBox(p, [b.x, b.y], [b.length, b.breadth]);
}

function between(a: readonly [number, number], b: readonly [number, number]): Box {
  return {
    x: Math.min(a[0], b[0]),
    y: Math.min(a[1], b[1]),
    length: centimetre(Math.abs(a[0] - b[0])),
    breadth: centimetre(Math.abs(a[1] - b[1])),
  };
}

/** The box moved, or with one edge or corner moved. No side gets under 5 cm. */
function moved(b: Box, dx: number, dy: number, edge?: readonly [number, number]): Box {
  if (!edge) return { ...b, x: centimetre(b.x + dx), y: centimetre(b.y + dy) };
  const [ex, ey] = edge;
  const along = side(b.x, b.length, dx, ex);
  const across = side(b.y, b.breadth, dy, ey);
  return { x: along[0], length: along[1], y: across[0], breadth: across[1] };
}

function side(low: number, size: number, d: number, edge: number): [number, number] {
  if (edge > 0) return [low, Math.max(0.05, centimetre(size + d))];
  if (edge === 0) return [low, size];
  const by = Math.min(d, size - 0.05);
  return [centimetre(low + by), centimetre(size - by)];
}
