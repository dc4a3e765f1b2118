import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { askBoat } from "../../api/askBoat";
import type { Target } from "./useHand";
import { useTyping } from "./useTyping";

type Props = {
  crew: string;
  boat: string;
  gear: string;
  version: string; // of how everything lies, so that the list is asked again after a move
  onAim: (t: Target) => void;
  onPut: (t: Target) => void;
};

/** The places that take the piece in hand, the handiest first, to be reached by keys: letters jump, Enter puts it there. */
export function Goes({ crew, boat, gear, version, onAim, onPut }: Props) {
  const suits = useQuery(askBoat.suits(crew, boat, gear, version)).data;
  const row = useRef<HTMLDivElement>(null);
  const known = suits !== undefined;
  useEffect(() => {
    if (known) row.current?.querySelector<HTMLButtonElement>("button:not([disabled])")?.focus();
  }, [known]);
  const jump = useTyping();
  const keys = (e: KeyboardEvent) => {
    const all = [...(row.current?.querySelectorAll<HTMLButtonElement>("button:not([disabled])") ?? [])];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
    if (step) {
      e.preventDefault();
      all[(at + step + all.length) % all.length]?.focus();
    } else jump(e, all);
  };
  if (!suits) return null;
  return (
    <div
      ref={row}
      role="toolbar"
      aria-label="Where it goes"
      className="flex gap-1.5 overflow-x-auto pt-1 pb-0.5 max-lg:hidden"
      onKeyDown={keys}
    >
      {suits.length === 0 && <span className="quiet text-sm">No place aboard takes it as they are filled now.</span>}
      {suits.map((s) => (
        <button
          key={s.place_id}
          type="button"
          disabled={s.here}
          className="label-type min-h-9 shrink-0 cursor-pointer whitespace-nowrap border border-(--hair) px-2 hover:bg-base-200 focus:border-base-content disabled:opacity-60"
          onFocus={() => onAim({ kind: "place", id: s.place_id })}
          onPointerEnter={() => onAim({ kind: "place", id: s.place_id })}
          onClick={() => onPut({ kind: "place", id: s.place_id })}
        >
          {s.name}
          {s.seconds !== undefined && <span className="quiet"> {Math.round(s.seconds)} s</span>}
          {s.here && <span className="quiet"> here</span>}
        </button>
      ))}
    </div>
  );
}
