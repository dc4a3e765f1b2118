import { type KeyboardEvent, useRef } from "react";

const PAUSE_MS = 900;

/** Letters typed one after another move the focus to what has a word that begins with them. */
export function useTyping() {
  const typed = useRef({ text: "", at: 0 });
  return (e: KeyboardEvent, list: HTMLElement[]) => {
    if (e.key.length !== 1 || e.key === " " || e.key === "/" || e.ctrlKey || e.metaKey || e.altKey) return;
    const now = Date.now();
    const was = typed.current;
    was.text = (now - was.at > PAUSE_MS ? "" : was.text) + e.key.toLowerCase();
    was.at = now;
    const begins = (el: HTMLElement, whole: boolean) => {
      const text = (el.textContent ?? "").trim().toLowerCase();
      return whole ? text.startsWith(was.text) : text.split(/[^\p{L}\p{N}]+/u).some((w) => w.startsWith(was.text));
    };
    const found = list.find((el) => begins(el, true)) ?? list.find((el) => begins(el, false));
    if (!found) return;
    e.preventDefault();
    found.focus();
  };
}
