import { Plus, X } from "lucide-react";
import { useId } from "react";
import { NotANumber, type NumberField, readOne, written } from "./Form";
import { fractions } from "./lengths";

/** A column of a list that is edited in place. */
export type Column =
  | { kind: "text"; key: string; label: string }
  | (NumberField & { kind: "number" })
  | { kind: "choice"; key: string; label: string; options: readonly (readonly [string, string])[] }
  | { kind: "check"; key: string; label: string };

export type Row = Record<string, string>;

/** Rows as texts, from values in SI. */
export function rowOf(columns: Column[], v: Record<string, unknown>): Row {
  return Object.fromEntries(
    columns.map((c) => {
      const value = v[c.key];
      if (c.kind === "number") return [c.key, written(c, Number(value ?? 0))];
      if (c.kind === "check") return [c.key, value ? "yes" : ""];
      return [c.key, String(value ?? (c.kind === "choice" ? c.options[0]?.[0] : ""))];
    }),
  );
}

/** Reads a row back: numbers in SI, checks as booleans; a text that is no number is told by its row and column. */
export function valuesOf(columns: Column[], row: Row): Record<string, string | number | boolean> {
  return Object.fromEntries(
    columns.map((c) => {
      const text = row[c.key] ?? "";
      if (c.kind === "check") return [c.key, text === "yes"];
      if (c.kind !== "number") return [c.key, text];
      const n = readOne(c, text);
      if (n === undefined) throw new NotANumber(`${row.name || "A row"}, ${c.label}: write a number in ${c.unit}.`);
      return [c.key, n];
    }),
  );
}

type Props = {
  name: string;
  columns: Column[];
  rows: Row[];
  fresh: Row;
  onChange: (rows: Row[]) => void;
};

/** A short list, each row a small form of its own. */
export function Rows({ name, columns, rows, fresh, onChange }: Props) {
  const put = (i: number, key: string, value: string) =>
    onChange(rows.map((r, k) => (k === i ? { ...r, [key]: value } : r)));
  return (
    <div className="grid gap-3">
      {rows.map((row, i) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by where they stand
          key={i}
          className="relative grid grid-cols-8 gap-x-2 gap-y-1 border border-(--hair) bg-base-100 p-2 pt-1"
        >
          <legend className="sr-only">{row.name || `${name} ${i + 1}`}</legend>
          {columns.map((c) => (
            <Cell key={c.key} column={c} value={row[c.key] ?? ""} onChange={(v) => put(i, c.key, v)} />
          ))}
          <button
            type="button"
            aria-label={`Take off: ${row.name || `${name} ${i + 1}`}`}
            className="absolute top-0 right-0 grid size-11 cursor-pointer place-items-center"
            onClick={() => onChange(rows.filter((_, k) => k !== i))}
          >
            <X size={16} aria-hidden="true" />
          </button>
        </fieldset>
      ))}
      <button
        type="button"
        className="plain-button flex items-center gap-1.5 justify-self-start"
        onClick={() => onChange([...rows, fresh])}
      >
        <Plus size={16} aria-hidden="true" /> Add {name}
      </button>
    </div>
  );
}

function Cell({ column: c, value, onChange }: { column: Column; value: string; onChange: (v: string) => void }) {
  const id = useId();
  if (c.kind === "check")
    return (
      <label className="col-span-8 flex min-h-11 items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="checkbox"
          checked={value === "yes"}
          onChange={(e) => onChange(e.target.checked ? "yes" : "")}
        />
        {c.label}
      </label>
    );
  const wide = c.kind === "text" ? "col-span-7" : c.kind === "choice" ? "col-span-4" : "col-span-2";
  return (
    <div className={`grid content-end ${wide}`}>
      <label htmlFor={id} className="text-sm leading-tight">
        {c.kind === "number" ? `${c.label}, ${c.unit}` : c.label}
      </label>
      {c.kind === "choice" ? (
        <select
          id={id}
          className="select min-h-11 w-full text-base"
          value={value}
          onChange={(e) => onChange(e.target.value)}
        >
          {c.options.map(([v, text]) => (
            <option key={v} value={v}>
              {text}
            </option>
          ))}
        </select>
      ) : (
        <input
          id={id}
          className="input min-h-11 w-full text-base"
          required
          maxLength={80}
          inputMode={c.kind === "number" && !fractions(c.unit) ? "decimal" : "text"}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </div>
  );
}
