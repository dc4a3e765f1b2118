import { type KeyboardEvent, type MouseEvent, type PointerEvent, useRef } from "react";
import { unplan } from "../../drawing/planInput";
import type { Projection } from "../../drawing/projection";
import type { FittingInput } from "./handForm";

type To = { x?: number; y?: number; z?: number };
type Props = { p: Projection; input: FittingInput; onMove: (to: To) => void };

const STEP = 0.01; // metres an arrow moves it
const FINE = 0.001; // with shift

/** Moves what is in hand: pressed or dragged in plan and profile, or by arrows. */
export function Mover({ p, input, onMove }: Props) {
  const dragging = useRef(false);
  const [x, y, z] = input.lies.at_m;
  const inPlan = (e: PointerEvent<SVGElement>) => {
    const [px, py] = unplan(p, e);
    onMove({ x: px, y: py });
  };
  const inProfile = (e: PointerEvent<SVGElement>) => {
    const [px, pz] = unprofile(p, e);
    onMove({ x: px, z: pz });
  };
  const follow = (move: (e: PointerEvent<SVGElement>) => void, finger = false) => ({
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      if (e.pointerType === "touch" && !finger) return; // a finger scrolls, and taps to move it
      e.currentTarget.setPointerCapture(e.pointerId);
      dragging.current = true;
      move(e);
    },
    onClick: (e: MouseEvent<SVGElement>) => !finger && move(e as unknown as PointerEvent<SVGElement>),
    onPointerMove: (e: PointerEvent<SVGElement>) => dragging.current && move(e),
    onPointerUp: () => {
      dragging.current = false;
    },
    onPointerCancel: () => {
      dragging.current = false;
    },
  });
  const keys = (e: KeyboardEvent) => {
    const by = e.shiftKey ? FINE : STEP;
    const to: Record<string, To> = {
      ArrowRight: { x: x + by },
      ArrowLeft: { x: x - by },
      ArrowUp: { y: y + by },
      ArrowDown: { y: y - by },
      PageUp: { z: z + by },
      PageDown: { z: z - by },
    };
    const where = to[e.key];
    if (!where) return;
    e.preventDefault();
    onMove(where);
  };
  const at = p.plan(x, y);
  return (
    <g>
      <rect
        data-testid="plan-area"
        x={0}
        y={p.planTop - 10}
        width={p.width}
        height={p.profileTop - p.planTop - (p.bowUp ? 16 : 14)}
        fill="transparent"
        className="cursor-crosshair"
        {...follow(inPlan)}
      />
      <rect
        data-testid="profile-area"
        x={0}
        y={p.profileTop}
        width={p.width}
        height={p.profileBottom - p.profileTop}
        fill="transparent"
        className="cursor-crosshair"
        {...follow(inProfile)}
      />
      <circle
        cx={at[0]}
        cy={at[1]}
        r="18"
        fill="transparent"
        stroke="var(--color-accent)"
        strokeDasharray="2 3"
        tabIndex={0}
        role="slider"
        aria-label={`Where ${input.name} stands; arrows move it along and across, page up and down in height`}
        aria-valuenow={Math.round(x * 1000)}
        aria-valuetext={`${Math.round(x * 1000)} mm from the transom, ${Math.round(Math.abs(y) * 1000)} mm to ${y < 0 ? "starboard" : "port"}, ${Math.round(z * 1000)} mm high`}
        className="cursor-move touch-none focus-visible:stroke-[4]"
        onKeyDown={keys}
        {...follow(inPlan, true)}
      />
    </g>
  );
}

/** The boat's x and z under a pointer over the profile, metres to the centimetre. */
function unprofile(p: Projection, e: PointerEvent<SVGElement>): [number, number] {
  const svg = e.currentTarget.ownerSVGElement as SVGSVGElement;
  const box = svg.getBoundingClientRect();
  const [ox, oz] = p.profile(0, 0);
  const [ax] = p.profile(1, 0);
  const [, bz] = p.profile(0, 1);
  const round = (v: number) => Math.round(v * 100) / 100;
  return [round((e.clientX - box.left - ox) / (ax - ox)), round((e.clientY - box.top - oz) / (bz - oz))];
}
