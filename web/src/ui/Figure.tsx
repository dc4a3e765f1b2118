/** A number that keeps what is typed until it is one. */
export function Figure(props: {
  label: string;
  unit: string;
  value: number;
  onChange: (v: number) => void;
  least?: number;
}) {
  const text = String(Number(props.value.toFixed(3)));
  return (
    <label className="grid content-start gap-0.5">
      <span className="text-sm leading-tight">{props.label}</span>
      <span className="flex items-center gap-1.5">
        <input
          key={text}
          className="input min-h-11 w-full text-base"
          inputMode="decimal"
          defaultValue={text}
          onBlur={(e) => {
            const n = Number(e.target.value.replace(",", "."));
            if (e.target.value.trim() !== "" && Number.isFinite(n) && n >= (props.least ?? 0)) props.onChange(n);
            else e.target.value = text;
          }}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            e.currentTarget.blur();
          }}
        />
        <span className="label-type quiet w-8 shrink-0">{props.unit}</span>
      </span>
    </label>
  );
}
