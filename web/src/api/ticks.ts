import { useEffect, useSyncExternalStore } from "react";
import { writeSafety } from "./askSafety";
import { type Membership, newKey, Refusal, refusedForGood, type Schemas, sayError } from "./client";

/** A tick that the server has not acknowledged yet. */
export type WaitingTick = Schemas["TickInput"] & { key: string; crew: string; trip: string };

const PREFIX = "ergasia-ticks:";

/** How long to wait before waiting ticks are sent again, milliseconds. */
const AGAIN_MS = [1000, 2000, 4000, 8000, 15_000];

/** Cut is that the last try to send found no network. */
type State = { list: WaitingTick[]; refused?: string; cut?: boolean };

/**
 * Ticks that wait for the network, each with the key by which the server knows one that is
 * sent again. They are kept in this browser, by member, so that a reload loses none.
 */
class Waiting {
  private states = new Map<string, State>();
  private listeners = new Set<() => void>();
  private sending = false;
  private tries = 0;
  private timer?: ReturnType<typeof setTimeout>;

  state(member: string): State {
    let s = this.states.get(member);
    if (!s) {
      s = { list: stored(member) };
      this.states.set(member, s);
    }
    return s;
  }

  /** All that waits: another page of this browser may have added to it. */
  private all(member: string): WaitingTick[] {
    const kept = stored(member);
    const keys = new Set(kept.map((t) => t.key));
    return [...kept, ...this.state(member).list.filter((t) => !keys.has(t.key))];
  }

  listen = (told: () => void) => {
    this.listeners.add(told);
    return () => this.listeners.delete(told);
  };

  private put(member: string, s: State) {
    this.states.set(member, s);
    try {
      if (s.list.length > 0) localStorage.setItem(PREFIX + member, JSON.stringify(s.list));
      else localStorage.removeItem(PREFIX + member);
    } catch {
      // without storage they wait in memory only
    }
    for (const told of this.listeners) told();
  }

  add(me: Membership, trip: string, line: string, done: boolean) {
    const one = { key: newKey(), crew: me.crew_id, trip, line, done, at: new Date().toISOString() };
    this.put(me.member_id, { ...this.state(me.member_id), list: [...this.all(me.member_id), one], refused: undefined });
    this.send(me.member_id);
  }

  /** Sends what waits, in order; what can't be sent now stays. */
  async send(member: string) {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      for (let next = this.all(member)[0]; next; next = this.all(member)[0]) {
        const { key, crew, trip, ...body } = next;
        let refused: string | undefined;
        try {
          await writeSafety.tick(crew, trip, key, body);
        } catch (error) {
          if (!refusedForGood(error)) throw error; // it waits on
          refused = sayError(error); // it will never be taken: say so, and go on
        }
        this.tries = 0;
        const left = this.all(member).filter((t) => t.key !== key);
        this.put(member, { list: left, refused: refused ?? this.state(member).refused });
      }
    } catch (error) {
      this.put(member, { ...this.state(member), cut: !(error instanceof Refusal) });
      const wait = AGAIN_MS[Math.min(this.tries++, AGAIN_MS.length - 1)];
      this.timer = setTimeout(() => this.send(member), wait);
    } finally {
      this.sending = false;
    }
  }
}

function stored(member: string): WaitingTick[] {
  try {
    const list = JSON.parse(localStorage.getItem(PREFIX + member) ?? "[]");
    return Array.isArray(list) ? list : [];
  } catch {
    return []; // no storage, or something else's
  }
}

/** What the service worker keeps of the crew for when there is no network; see vite.config.ts. */
const KEPT = "ergasia-lists";

/** Takes what is kept of the crew off this machine, as when someone signs out. Ticks that wait stay theirs. */
export function forgetKept() {
  if ("caches" in window) caches.delete(KEPT);
}

const waiting = new Waiting();

/** The ticks that wait, and how to add one. */
export function useTicks(me: Membership, trip: string) {
  const state = useSyncExternalStore(waiting.listen, () => waiting.state(me.member_id));
  return {
    waiting: state.list.filter((t) => t.trip === trip),
    refused: state.refused,
    cut: state.cut ?? false,
    tick: (line: string, done: boolean) => waiting.add(me, trip, line, done),
    send: () => waiting.send(me.member_id),
  };
}

/** Sends what waited over a reload, and whenever the network is back. */
export function useSending(me: Membership) {
  const member = me.member_id;
  useEffect(() => {
    const send = () => waiting.send(member);
    send();
    window.addEventListener("online", send);
    return () => window.removeEventListener("online", send);
  }, [member]);
}
