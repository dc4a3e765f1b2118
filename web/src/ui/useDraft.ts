import { useEffect, useRef, useState } from "react";

const PREFIX = "ergasia:";
const DROPPED = "ergasia-dropped";
const SAVED = "ergasia-saved";

type Initial<T> = T | (() => T);

function made<T>(initial: Initial<T>): T {
  return typeof initial === "function" ? (initial as () => T)() : initial;
}

/** What is kept of a draft, where it has the shape that the form expects. */
function kept<T>(name: string, initial: T): T {
  try {
    const text = localStorage.getItem(name);
    if (text === null) return initial;
    const value = JSON.parse(text) as T;
    if (typeof value !== typeof initial || Array.isArray(value) !== Array.isArray(initial)) return initial;
    const record = typeof value === "object" && value !== null && !Array.isArray(value);
    return record ? { ...initial, ...value } : value;
  } catch {
    return initial; // no storage, or something else's
  }
}

function keep(name: string, value: unknown, initial: unknown) {
  try {
    const text = JSON.stringify(value);
    if (text === JSON.stringify(initial)) localStorage.removeItem(name);
    else localStorage.setItem(name, text);
  } catch {
    // a full or forbidden storage only means that nothing is kept
  }
}

/**
 * State of a form of which nothing typed is lost: what was not saved yet is kept
 * on this machine, so that one can leave the page anywhere. The keys of one form
 * begin with a scope that its SaveForm knows, which forgets them when it is saved.
 */
export function useDraft<T>(key: string, initial: Initial<T>): [T, (v: T | ((was: T) => T)) => void] {
  const name = PREFIX + key;
  const latest = useRef(initial);
  latest.current = initial;
  const [value, setValue] = useState<T>(() => kept(name, made(initial)));
  const saved = JSON.stringify(made(initial));
  const was = useRef(saved);
  const follows = useRef(false);
  useEffect(() => {
    const before = was.current;
    was.current = saved;
    // What nobody touched since it was saved follows what is saved now: the server may have
    // written it otherwise, someone may have changed it elsewhere, or undone it.
    if (before !== saved) setValue((v) => (follows.current || JSON.stringify(v) === before ? made(latest.current) : v));
  }, [saved]);
  useEffect(() => {
    const settled = (e: Event) => {
      if (name.startsWith((e as CustomEvent<string>).detail)) follows.current = true;
    };
    window.addEventListener(SAVED, settled);
    return () => window.removeEventListener(SAVED, settled);
  }, [name]);
  useEffect(() => {
    const dropped = (e: Event) => name.startsWith((e as CustomEvent<string>).detail) && setValue(made(latest.current));
    window.addEventListener(DROPPED, dropped);
    return () => window.removeEventListener(DROPPED, dropped);
  }, [name]);
  const now = useRef(value);
  now.current = value;
  const set = (v: T | ((was: T) => T)) => {
    const next = typeof v === "function" ? (v as (was: T) => T)(now.current) : v;
    follows.current = false;
    now.current = next; // several in one stroke go one on another
    keep(name, next, made(latest.current)); // at once: the form may be gone before it is drawn again
    setValue(next);
  };
  return [value, set];
}

function draftsOf(scope: string): string[] {
  try {
    return Object.keys(localStorage).filter((key) => key.startsWith(`${PREFIX}${scope}.`));
  } catch {
    return []; // no storage: nothing is kept
  }
}

/** Whether something typed before is kept for a form. */
export function hasDraft(scope: string): boolean {
  return draftsOf(scope).length > 0;
}

/** Forgets what is kept of a form; with reset, the form shows again what is saved. */
export function dropDraft(scope: string, reset = false) {
  for (const key of draftsOf(scope)) localStorage.removeItem(key);
  window.dispatchEvent(new CustomEvent(SAVED, { detail: `${PREFIX}${scope}.` }));
  if (reset) window.dispatchEvent(new CustomEvent(DROPPED, { detail: `${PREFIX}${scope}.` }));
}

/** Takes every draft off this machine, as when someone signs out. */
export function forgetDrafts() {
  try {
    for (const key of Object.keys(localStorage)) if (key.startsWith(PREFIX)) localStorage.removeItem(key);
  } catch {
    // no storage: nothing to forget
  }
}
