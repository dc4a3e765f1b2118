import type { PointerEvent } from "react";
import type { Projection } from "./projection";

/** The boat's x and y under a pointer over the plan, metres to the centimetre. */
export function unplan(p: Projection, e: Pick<PointerEvent<SVGElement>, "clientX" | "clientY" | "currentTarget">) {
  const svg = e.currentTarget.ownerSVGElement ?? (e.currentTarget as unknown as SVGSVGElement);
  const box = svg.getBoundingClientRect();
  return unpixel(p, e.clientX - box.left, e.clientY - box.top);
}

/** The boat's x and y at a pixel of the sheet. */
export function unpixel(p: Projection, px: number, py: number): [number, number] {
  const [ox, oy] = p.plan(0, 0);
  const [ax, ay] = p.plan(1, 0); // one metre forward
  const [bx, by] = p.plan(0, 1); // one metre to port
  const det = (ax - ox) * (by - oy) - (bx - ox) * (ay - oy);
  const dx = px - ox;
  const dy = py - oy;
  const x = (dx * (by - oy) - (bx - ox) * dy) / det;
  const y = ((ax - ox) * dy - dx * (ay - oy)) / det;
  return [centimetre(x), centimetre(y)];
}

export function centimetre(v: number): number {
  return Math.round(v * 100) / 100 + 0;
}
