import type { ReactNode } from "react";

/** One of several sheets that share a room; children stand at the end of the row. */
export function Tabs<K extends string>({
  of,
  tabs,
  chosen,
  onChoose,
  children,
}: {
  /** What the tabs are of, for who listens instead of looks. */
  of: string;
  tabs: readonly (readonly [K, string])[];
  chosen: K;
  onChoose: (key: K) => void;
  children?: ReactNode;
}) {
  return (
    <div role="tablist" aria-label={of} className="flex flex-wrap gap-x-1 border-(--hair) border-b">
      {tabs.map(([key, label]) => (
        <button
          key={key}
          type="button"
          role="tab"
          aria-selected={chosen === key}
          className={`label-type min-h-11 cursor-pointer px-2 text-lg ${chosen === key ? "border-base-content border-b-3" : "quiet"}`}
          onClick={() => onChoose(key)}
        >
          {label}
        </button>
      ))}
      {children}
    </div>
  );
}
