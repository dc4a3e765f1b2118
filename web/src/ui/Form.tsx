import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { freshUndo } from "../api/ask";
import { Refusal, sayError } from "../api/client";
import { fractions, isLength, lengthText, parseLength } from "./lengths";
import { Faults } from "./States";
import { dropDraft, hasDraft } from "./useDraft";

/** A number to be typed in the member's units; si is how many SI units one is. */
export type NumberField = { key: string; label: string; unit: string; si: number; hint?: string };

export type Values = Record<string, string>;

/** Quantities in SI as texts to be edited. */
export function typed(fields: NumberField[], si: Record<string, number>): Values {
  return Object.fromEntries(fields.map((f) => [f.key, written(f, si[f.key] ?? 0)]));
}

/** One quantity in SI as a text to be edited. */
export function written(f: Pick<NumberField, "unit" | "si">, si: number): string {
  return isLength(f.unit) ? lengthText(si, f.unit) : tidy(si / f.si);
}

/** The number in SI that was typed into a field, or undefined. */
export function readOne(f: Pick<NumberField, "unit" | "si">, text: string): number | undefined {
  if (isLength(f.unit)) return parseLength(text, f.unit);
  const t = text.trim().replace(",", ".");
  return t === "" || !Number.isFinite(Number(t)) ? undefined : Number(t) * f.si;
}

function tidy(n: number): string {
  return String(Number(n.toPrecision(6)));
}

/** A text that is no number stops a form with a sentence. */
export class NotANumber extends Error {}

/** Reads the texts back into SI. */
export function read(fields: NumberField[], values: Values): Record<string, number> {
  return Object.fromEntries(
    fields.map((f) => {
      const n = readOne(f, values[f.key] ?? "");
      if (n === undefined) throw new NotANumber(`${f.label}: write a number in ${f.unit || "figures"}.`);
      return [f.key, n];
    }),
  );
}

/** Several numbers side by side. */
export function NumberFields({
  fields,
  values,
  onChange,
  onFocus,
  wrong = {},
  narrow,
}: {
  fields: NumberField[];
  values: Values;
  onChange: (v: Values) => void;
  onFocus?: (key: string | undefined) => void;
  wrong?: Record<string, string>;
  narrow?: boolean | "single";
}) {
  return (
    <div
      className={`grid gap-x-4 gap-y-2 ${narrow === "single" ? "grid-cols-1" : narrow ? "grid-cols-2" : "grid-cols-2 sm:grid-cols-3 lg:grid-cols-4"}`}
    >
      {fields.map((f) => (
        <label key={f.key} className="grid content-start gap-0.5">
          <span className="text-sm leading-tight">{f.label}</span>
          <span className="flex items-center gap-1.5">
            <input
              className={`input min-h-11 w-full text-base ${wrong[f.key] ? "border-2 border-accent" : ""}`}
              inputMode={fractions(f.unit) ? "text" : "decimal"}
              required
              aria-invalid={wrong[f.key] ? true : undefined}
              data-measure={f.key}
              value={values[f.key] ?? ""}
              onFocus={() => onFocus?.(f.key)}
              onBlur={() => onFocus?.(undefined)}
              onChange={(e) => onChange({ ...values, [f.key]: e.target.value })}
            />
            <span className="label-type quiet w-8 shrink-0">{f.unit}</span>
          </span>
          {wrong[f.key] ? (
            <span className="text-loud text-sm leading-tight">{wrong[f.key]}</span>
          ) : (
            f.hint && <span className="quiet text-sm leading-tight">{f.hint}</span>
          )}
        </label>
      ))}
    </div>
  );
}

export function TextField(props: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  max?: number;
  type?: string;
  complete?: string;
}) {
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{props.label}</span>
      <input
        className="input min-h-11 w-full text-base"
        required
        type={props.type ?? "text"}
        autoComplete={props.complete}
        maxLength={props.max ?? 80}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </label>
  );
}

export function Choice<T extends string>(props: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (v: T) => void;
}) {
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{props.label}</span>
      <select
        className="select min-h-11 w-full text-base"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value as T)}
      >
        {props.options.map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A text that may stay empty, or a number with its unit. */
export function Loose(props: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  max?: number;
  type?: string;
  list?: string;
  unit?: string;
  required?: boolean;
}) {
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{props.label}</span>
      <span className="flex items-center gap-1.5">
        <input
          className="input min-h-11 w-full text-base"
          type={props.type ?? "text"}
          inputMode={props.unit === undefined || fractions(props.unit) ? undefined : "decimal"}
          maxLength={props.max ?? 80}
          list={props.list}
          required={props.required}
          value={props.value}
          onChange={(e) => props.onChange(e.target.value)}
        />
        {props.unit && <span className="label-type quiet w-8 shrink-0">{props.unit}</span>}
      </span>
    </label>
  );
}

type ChecksProps = {
  all: readonly (readonly [string, string])[];
  on: (key: string) => boolean;
  set: (key: string, value: boolean) => void;
};

/** Several things that may each be so or not. */
export function Checks({ all, on, set }: ChecksProps) {
  if (all.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-x-5">
      {all.map(([key, label]) => (
        <label key={key} className="flex min-h-11 items-center gap-2">
          <input type="checkbox" className="checkbox" checked={on(key)} onChange={(e) => set(key, e.target.checked)} />
          {label}
        </label>
      ))}
    </div>
  );
}

type SaveFormProps = {
  name: string;
  draft?: string; // the scope of its drafts, see useDraft
  button: string;
  save: () => Promise<unknown>;
  onSaved?: () => void;
  children: ReactNode;
  extra?: ReactNode;
};

/** A form that is saved whole or not at all, and says what is not right. */
export function SaveForm({ name, draft, button, save, onSaved, children, extra }: SaveFormProps) {
  const queries = useQueryClient();
  const [done, setDone] = useState(false);
  const [kept, setKept] = useState(() => draft !== undefined && hasDraft(draft));
  const saving = useMutation({
    mutationFn: save,
    onMutate: () => setDone(false),
    onSuccess: () => {
      setDone(true);
      setKept(false);
      if (draft) dropDraft(draft);
      onSaved?.();
    },
    // Waited for, so that whoever presses again saves over what is there now, however quick the hand.
    onError: (e) => (overtaken(e) ? queries.invalidateQueries() : undefined),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    saving.mutate();
  };
  const error = saving.error;
  return (
    <form className="grid gap-3" aria-label={name} onSubmit={submit} onChange={() => setDone(false)}>
      {kept && draft && (
        <p role="status" className="flex flex-wrap items-center gap-x-4 border border-(--hair) bg-base-100 px-3 py-1">
          <span>What you typed here before is not saved yet.</span>
          <button
            type="button"
            className="min-h-11 cursor-pointer underline"
            onClick={() => {
              dropDraft(draft, true);
              setKept(false);
            }}
          >
            Begin again from what is saved
          </button>
        </p>
      )}
      {children}
      <Faults text={error ? saidOf(error) : undefined} details={error instanceof Refusal ? error.details : []} />
      <div className="flex items-center gap-3">
        <button type="submit" className="main-button" disabled={saving.isPending}>
          {button}
        </button>
        {extra}
        <span role="status">{done ? "Saved." : ""}</span>
      </div>
    </form>
  );
}

function overtaken(error: unknown): boolean {
  return error instanceof Refusal && error.status === 409;
}

function saidOf(error: unknown): string {
  if (error instanceof NotANumber) return error.message;
  if (overtaken(error)) return `${sayError(error)} What you typed is still here: save again to put it over that.`;
  return sayError(error);
}

/** A page of text and forms, as against the drawing. */
export function Page({ title, intro, children }: { title: string; intro?: string; children: ReactNode }) {
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-5xl gap-5 p-4 lg:p-6">
        <div>
          <h1 className="label-type wrap-anywhere text-3xl">{title}</h1>
          {intro && <p className="quiet max-w-2xl wrap-anywhere">{intro}</p>}
        </div>
        {children}
      </div>
    </main>
  );
}

export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="grid gap-3 border-t border-(--hair) pt-3">
      <h2 className="label-type text-xl">{title}</h2>
      {children}
    </section>
  );
}

/** Takes something away, and says why where it may not. */
export function RemoveButton({
  text,
  name,
  remove,
  onRemoved,
}: {
  text: string;
  name: string;
  remove: () => Promise<unknown>;
  onRemoved: () => void;
}) {
  const queries = useQueryClient();
  const removing = useMutation({
    mutationFn: remove,
    onSuccess: () => {
      onRemoved();
      freshUndo(queries);
    },
  });
  return (
    <>
      <button
        type="button"
        className="plain-button"
        aria-label={`${text}: ${name}`}
        disabled={removing.isPending}
        onClick={() => removing.mutate()}
      >
        {text}
      </button>
      {removing.error && (
        <span role="alert" className="text-loud">
          {sayError(removing.error)}
        </span>
      )}
    </>
  );
}
