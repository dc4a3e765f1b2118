import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Bench, MoveInput, Place, Schemas } from "../../api/client";
import { rodOutline } from "../../drawing/projection";
import { useNarrow } from "../../ui/useNarrow";

type Laid = Schemas["Laid"];

/** One piece laid elsewhere in its place, by hand. */
export type HandLaid = MoveInput;

type Props = {
  bench: Bench;
  place: Place;
  numbers: Map<string, number>;
  onLay?: (lay: HandLaid) => void;
  onAnew: () => void;
};

const NAMES = ["the floor", "the second layer", "the third layer"];

/** A piece in the picture: which one of its entry, and how it lies. */
type Piece = Laid & { gear: string; index: number; version: number; number: number; name: string };

/**
 * How things lie in a place, from above and to scale; a slider looks down through
 * the layers. A piece is dragged to lie elsewhere, or moved with the arrow keys
 * and turned with R; the server says where it comes to rest, and whether it may.
 */
export function Layers({ bench, place, numbers, onLay, onAnew }: Props) {
  const here = bench.state.stowage.filter((s) => s.place_id === place.id && !s.inside_id);
  const laid: Piece[] = here.flatMap((s) =>
    s.laid.map((l, index) => ({
      ...l,
      gear: s.gear_id,
      index,
      version: s.version,
      number: numbers.get(s.gear_id) ?? 0,
      name: bench.gear.find((g) => g.id === s.gear_id)?.name ?? "",
    })),
  );
  const top = Math.max(0, ...laid.map((l) => l.layer));
  const [chosen, setChosen] = useState<number>();
  const layer = Math.min(chosen ?? top, top);
  const [held, setHeld] = useState<string>(); // the piece that was pressed last
  const [drag, setDrag] = useState<[number, number]>(); // metres along x and y
  const from = useRef<{ x: number; y: number; metres: number }>(undefined);
  const upright = useNarrow(); // as the plan stands there
  if (laid.length === 0) return null;
  const [length, breadth] = place.size_m;
  const type = Math.max(length, breadth) * 70;
  const piece = laid.find((l) => keyOf(l) === held);
  const lay = (l: Piece, by: [number, number], turn = 0) =>
    onLay?.({
      gear_id: l.gear,
      place_id: place.id,
      version: l.version,
      lay: {
        index: l.index,
        at_m: [l.corner_m[0] - place.corner_m[0] + by[0], l.corner_m[1] - place.corner_m[1] + by[1]],
        turn,
      },
    });
  const keys = (e: KeyboardEvent, l: Piece) => {
    const step = e.shiftKey ? 0.1 : 0.02; // over the centimetre and a half in which edges catch
    const ways: Record<string, [number, number]> = {
      ArrowRight: upright ? [0, -step] : [step, 0],
      ArrowLeft: upright ? [0, step] : [-step, 0],
      ArrowUp: upright ? [step, 0] : [0, step],
      ArrowDown: upright ? [-step, 0] : [0, -step],
    };
    const way = ways[e.key];
    if (way) lay(l, way);
    else if (e.key === "r" || e.key === "R") lay(l, [0, 0], 1);
    else return;
    e.preventDefault();
    setHeld(keyOf(l));
  };
  const press = (e: PointerEvent<SVGGElement>, l: Piece) => {
    const box = e.currentTarget.ownerSVGElement?.getScreenCTM();
    if (!onLay || !box) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    from.current = { x: e.clientX, y: e.clientY, metres: 1 / (1000 * box.a) };
    setHeld(keyOf(l));
    setDrag(undefined);
  };
  const pulled = (e: PointerEvent): [number, number] | undefined => {
    const f = from.current;
    if (!f) return undefined;
    const [right, up] = [(e.clientX - f.x) * f.metres, (f.y - e.clientY) * f.metres];
    return upright ? [up, -right] : [right, up];
  };
  const drop = (e: PointerEvent, l: Piece) => {
    const by = pulled(e);
    from.current = undefined;
    if (by && Math.hypot(...by) > 0.005) lay(l, by);
    setDrag(undefined);
  };
  return (
    <div className="hairline-b px-4 py-2" data-testid="layers">
      <svg
        viewBox={`-6 -6 ${(upright ? breadth : length) * 1000 + 12} ${(upright ? length : breadth) * 1000 + 12}`}
        className="max-h-44 w-full"
        role="group"
        aria-label={`${place.name} from above, down to ${NAMES[layer] ?? `layer ${layer + 1}`}`}
      >
        <g transform={upright ? `translate(0 ${length * 1000}) rotate(-90)` : undefined}>
          <rect
            width={length * 1000}
            height={breadth * 1000}
            fill="var(--color-base-100)"
            stroke="currentColor"
            strokeWidth="8"
          />
          {laid
            .filter((l) => l.layer <= layer)
            .sort((a, b) => a.layer - b.layer)
            .map((l) => {
              const now = l.layer === layer;
              const drawn = (
                <>
                  <Outline piece={l} place={place} filled={now} strong={keyOf(l) === held} />
                  <PieceNumber piece={l} place={place} type={type} upright={upright} />
                </>
              );
              if (!now || !onLay) {
                return (
                  <g key={keyOf(l)} opacity={now ? 1 : 0.45}>
                    {drawn}
                  </g>
                );
              }
              const by = keyOf(l) === held ? drag : undefined;
              return (
                <g
                  key={keyOf(l)}
                  role="button"
                  tabIndex={0}
                  aria-label={`${l.number} ${l.name}: arrows move it, R turns it`}
                  data-piece={l.name}
                  className="cursor-move touch-none outline-none [&:focus-visible>*:first-child]:stroke-[12]"
                  transform={by ? `translate(${by[0] * 1000} ${-by[1] * 1000})` : undefined}
                  onPointerDown={(e) => press(e, l)}
                  onPointerMove={(e) => setDrag(pulled(e))}
                  onPointerUp={(e) => drop(e, l)}
                  onPointerCancel={() => setDrag(undefined)}
                  onKeyDown={(e) => keys(e, l)}
                >
                  {drawn}
                </g>
              );
            })}
        </g>
      </svg>
      {top > 0 && (
        <label className="grid pt-1 text-sm leading-tight">
          Down to {NAMES[layer] ?? `layer ${layer + 1}`}
          <input
            type="range"
            className="h-8 w-full accent-(--color-base-content)"
            min={0}
            max={top}
            value={layer}
            onChange={(e) => setChosen(Number(e.target.value))}
          />
        </label>
      )}
      {onLay && (
        <p className="quiet pt-1 text-sm leading-tight">
          {piece ? (
            <>
              {piece.number} {piece.name}:{" "}
              <button type="button" className="min-h-11 underline" onClick={() => lay(piece, [0, 0], 1)}>
                turn it
              </button>
            </>
          ) : (
            "Drag a piece to lay it elsewhere."
          )}
          {here.some((s) => s.by_hand) && (
            <>
              {" · Laid by hand: "}
              <button type="button" className="min-h-11 underline" onClick={onAnew}>
                lay all anew
              </button>
            </>
          )}
        </p>
      )}
    </div>
  );
}

const keyOf = (l: Piece) => `${l.gear} ${l.index}`;

/** In the plan's own turn, millimetres: the bow to the right, port up. */
function rect(l: Laid, place: Place) {
  return {
    x: (l.corner_m[0] - place.corner_m[0]) * 1000,
    y: (place.size_m[1] - (l.corner_m[1] - place.corner_m[1]) - l.size_m[1]) * 1000,
    width: l.size_m[0] * 1000,
    height: l.size_m[1] * 1000,
  };
}

function Outline({ piece, place, filled, strong }: { piece: Piece; place: Place; filled: boolean; strong: boolean }) {
  const look = {
    fill: filled ? "var(--water)" : "var(--color-base-100)",
    stroke: "currentColor",
    strokeWidth: strong ? 10 : 4,
  };
  const box = rect(piece, place);
  if (!piece.rod) return <rect {...box} {...look} />;
  const at = (x: number, y: number) => [
    (x - place.corner_m[0]) * 1000,
    (place.size_m[1] - (y - place.corner_m[1])) * 1000,
  ];
  return <polygon points={rodOutline(at, piece, piece.rod)} {...look} />;
}

type NumberProps = { piece: Piece; place: Place; type: number; upright: boolean };

function PieceNumber({ piece, place, type, upright }: NumberProps) {
  const box = rect(piece, place);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  return (
    <text
      x={x}
      y={y + type / 3}
      transform={upright ? `rotate(90 ${x} ${y})` : undefined}
      textAnchor="middle"
      fontSize={Math.min(type, box.height, box.width)}
      className="figure-type pointer-events-none"
      fill="currentColor"
    >
      {piece.number}
    </text>
  );
}
