type Props = {
  label: string;
  unit?: string;
  value: number | undefined; // in SI; none or 0 is left empty
  si?: number; // how many SI units one is
  usual?: string; // what holds where it is left empty
  onChange: (v: number | undefined) => void;
};

/** A number that may be left empty; what is typed stays until it is one. */
export function Amount({ label, unit, value, si = 1, usual, onChange }: Props) {
  const text = value ? String(Number((value / si).toPrecision(5))) : "";
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{label}</span>
      <span className="flex items-center gap-1.5">
        <input
          key={text}
          className="input min-h-11 w-full text-base"
          inputMode="decimal"
          defaultValue={text}
          placeholder={usual}
          onBlur={(e) => {
            const typed = e.target.value.trim().replace(",", ".");
            const n = Number(typed);
            if (typed === "") onChange(undefined);
            else if (Number.isFinite(n)) onChange(n * si);
            else e.target.value = text;
          }}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            e.currentTarget.blur();
          }}
        />
        {unit && <span className="label-type quiet w-8 shrink-0">{unit}</span>}
      </span>
    </label>
  );
}
