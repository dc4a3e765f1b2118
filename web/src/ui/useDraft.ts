import { useState } from "react";

const PREFIX = "ergasia:";

/** What was typed and not saved yet, kept on this machine until it is, so that one can stop anywhere. */
export function useDraft<T>(key: string, initial: T): [T, (v: T) => void, () => void] {
  const name = PREFIX + key;
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(name);
      return kept ? (JSON.parse(kept) as T) : initial;
    } catch {
      return initial; // no storage, or something else's
    }
  });
  const keep = (v: T) => {
    setValue(v);
    try {
      localStorage.setItem(name, JSON.stringify(v));
    } catch {
      // a full or forbidden storage only means that nothing is kept
    }
  };
  const drop = () => {
    try {
      localStorage.removeItem(name);
    } catch {
      // as above
    }
  };
  return [value, keep, drop];
}

/** Takes every draft off this machine, as when someone signs out. */
export function forgetDrafts() {
  try {
    for (const key of Object.keys(localStorage)) if (key.startsWith(PREFIX)) localStorage.removeItem(key);
  } catch {
    // no storage: nothing to forget
  }
}
