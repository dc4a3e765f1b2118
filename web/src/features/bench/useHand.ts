import { type PointerEvent as ReactPointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { BoatState, MoveInput } from "../../api/client";

/** What is being carried. */
export type Hand = { kind: "gear"; id: string } | { kind: "member"; id: string; seated: boolean };

/** Where it may be put down. */
export type Target = { kind: "place" | "post"; id: string } | { kind: "ashore" };

/** Pixels that a pressed pointer may stray before it is a drag. */
const STRAY = 5;

export function sameTarget(a: Target | undefined, b: Target | undefined): boolean {
  if (a?.kind === "ashore" || b?.kind === "ashore" || !a || !b) return a?.kind === b?.kind;
  return a.kind === b.kind && a.id === b.id;
}

/** The move that putting the hand's piece on the target would be, if it may be one. */
export function moveOf(hand: Hand | undefined, target: Target | undefined, state: BoatState): MoveInput | undefined {
  if (!hand || !target) return undefined;
  if (hand.kind === "gear") {
    if (target.kind === "post") return undefined;
    const at = state.stowage.find((s) => s.gear_id === hand.id);
    const place = target.kind === "place" ? target.id : undefined;
    if (at?.place_id === place) return undefined;
    return { gear_id: hand.id, place_id: place, version: at?.version ?? 0 };
  }
  if (target.kind === "place") return undefined;
  const at = state.people.find((s) => s.member_id === hand.id);
  const post = target.kind === "post" ? target.id : undefined;
  if (at?.post_id === post && at?.seated === (hand.seated && post !== undefined)) return undefined;
  return { member_id: hand.id, post_id: post, seated: hand.seated, version: at?.version ?? 0 };
}

function targetUnder(x: number, y: number): Target | undefined {
  const found = document.elementFromPoint(x, y)?.closest<SVGElement | HTMLElement>("[data-target]")?.dataset.target;
  if (!found) return undefined;
  const [kind, id = ""] = found.split(":");
  return kind === "ashore" ? { kind } : { kind: kind as "place" | "post", id };
}

/**
 * One hand for mouse, keys and touch. Pressing and dragging carries a piece to
 * where it is let go; a press without a drag, or Enter, picks it up until it is
 * put down or Escape lets go.
 */
export function useHand(put: (hand: Hand, target: Target) => void) {
  const [hand, setHand] = useState<Hand>();
  const [target, setTarget] = useState<Target>();
  const [drag, setDrag] = useState<{ x: number; y: number }>();
  const pressed = useRef<{ hand: Hand; x: number; y: number; dragging: boolean }>(undefined);
  const swallow = useRef(false); // the click that ends a drag

  const aim = useCallback((next: Target | undefined) => {
    setTarget((old) => (sameTarget(old, next) ? old : next));
  }, []);

  const letGo = useCallback(() => {
    setHand(undefined);
    setTarget(undefined);
  }, []);

  const press = useCallback((event: ReactPointerEvent, next: Hand) => {
    if (event.pointerType === "touch" || event.button !== 0) return; // a finger taps, and scrolls
    pressed.current = { hand: next, x: event.clientX, y: event.clientY, dragging: false };
  }, []);

  useEffect(() => {
    const onMove = (e: PointerEvent) => {
      const p = pressed.current;
      if (!p) return;
      if (!p.dragging && Math.hypot(e.clientX - p.x, e.clientY - p.y) > STRAY) {
        p.dragging = true;
        setHand(p.hand);
      }
      if (p.dragging) {
        setDrag({ x: e.clientX, y: e.clientY });
        aim(targetUnder(e.clientX, e.clientY));
      }
    };
    const onUp = (e: PointerEvent) => {
      const p = pressed.current;
      pressed.current = undefined;
      if (!p?.dragging) return;
      swallow.current = true;
      setTimeout(() => {
        swallow.current = false;
      });
      setDrag(undefined);
      const under = targetUnder(e.clientX, e.clientY);
      if (under) put(p.hand, under);
      else letGo();
    };
    const onKey = (e: KeyboardEvent) => {
      if (e.key === "Escape") letGo();
    };
    window.addEventListener("pointermove", onMove);
    window.addEventListener("pointerup", onUp);
    window.addEventListener("keydown", onKey);
    return () => {
      window.removeEventListener("pointermove", onMove);
      window.removeEventListener("pointerup", onUp);
      window.removeEventListener("keydown", onKey);
    };
  }, [aim, letGo, put]);

  const [byKeys, setByKeys] = useState(false); // it was picked up by a key: where it goes is chosen by keys too
  const pickUp = useCallback((next: Hand, keys = false) => {
    if (swallow.current) return;
    setByKeys(keys);
    setHand((old) => (old?.id === next.id ? undefined : next));
    setTarget(undefined);
  }, []);

  const clickIsDrag = useCallback(() => swallow.current, []);
  return { hand, setHand, target, aim, drag, press, pickUp, byKeys, letGo, clickIsDrag };
}
