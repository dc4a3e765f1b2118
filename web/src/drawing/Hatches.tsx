import type { Member } from "../api/client";

/** Owners are told apart by hatch and letter, never by colour. */
const HATCHES = [
  <path key="0" d="M-2 2 2 -2M0 8 8 0M6 10 10 6" />,
  <path key="1" d="M0 4H8" />,
  <path key="2" d="M2 2h.01M6 6h.01" strokeWidth="1.8" strokeLinecap="round" />,
  <path key="3" d="M-2 6 2 10M0 0 8 8M6 -2 10 2" />,
  <path key="4" d="M4 0V8" />,
  <path key="5" d="M4 0V8M0 4H8" />,
];

export function hatchOf(members: Member[], owner: string | undefined): string | undefined {
  const i = members.findIndex((m) => m.id === owner);
  return i < 0 ? undefined : `url(#hatch-${i % HATCHES.length})`;
}

/** The hatches themselves, once a page; a drawing that is not shown can't lend its own. */
export function HatchDefs() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <defs>
        {HATCHES.map((lines, i) => (
          <pattern
            // biome-ignore lint/suspicious/noArrayIndexKey: the list is a constant
            key={i}
            id={`hatch-${i}`}
            width="8"
            height="8"
            patternUnits="userSpaceOnUse"
            stroke="var(--quiet)"
            strokeWidth="0.9"
            fill="none"
          >
            {lines}
          </pattern>
        ))}
      </defs>
    </svg>
  );
}
