import { useState } from "react";
import type { Schemas } from "../../api/client";
import { WORDS } from "../../domain/words.gen";
import type { NumberField, Values } from "../../ui/Form";
import { Checks, Choice, Loose } from "../../ui/Form";
import { holesOf, holesText } from "./handForm";
import type { PartProps } from "./InHand";

type HeldInput = Schemas["FittingHeld"];

const SIZES = ["", "M4", "M5", "M6", "M8", "M10", "#8-32", "#10-24", "1/4-20", "5/16-18", "3/8-16"].map(
  (s) => [s, s || "not known"] as const,
);
const METALS = [["", "not known"], ...WORDS.metals] as const;
const PANELS = [["", "her own material"], ...WORDS.panels] as const;

/** How it is held: screws, what they go through, what is behind, and what hangs in the water. */
export function Held({ me, rigging, fields, hand, onChange, set }: PartProps) {
  const h = hand.chosen.held;
  const numbers = (list: NumberField[]) => <Numbers fields={list} hand={hand.values} onChange={values} />;
  const values = (v: Values) => onChange({ ...hand, values: { ...hand.values, ...v } });
  const text = (key: "grade" | "sealant" | "backing" | "drilled", label: string) => (
    <Loose
      label={label}
      value={h[key] ?? ""}
      max={200}
      onChange={(v) => set((x) => Object.assign(x.held, { [key]: v }))}
    />
  );
  return (
    <div className="grid gap-3">
      <Choice
        label="Held by"
        value={h.method}
        options={WORDS.methods}
        onChange={(m) => set((x) => Object.assign(x.held, { method: m }))}
      />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Choice
          label="Screws"
          value={h.screw ?? ""}
          options={SIZES}
          onChange={(s) => set((x) => Object.assign(x.held, { screw: s }))}
        />
        {numbers(fields.screws)}
        {numbers(fields.foot)}
        <Choice
          label="Fastened to"
          value={h.panel ?? ""}
          options={PANELS}
          onChange={(p) =>
            set((x) => {
              if (p) x.held.panel = p as HeldInput["panel"];
              else delete x.held.panel;
            })
          }
        />
        {numbers(fields.panel)}
      </div>
      <Choice
        label="The back of the panel"
        value={h.back || "open"}
        options={WORDS.backs}
        onChange={(b) => set((x) => Object.assign(x.held, { back: b }))}
      />
      <Choice
        label="It comes off"
        value={h.comes_off || "never"}
        options={WORDS.comes_off}
        onChange={(c) => set((x) => Object.assign(x.held, { comes_off: c }))}
      />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Choice
          label="It is"
          value={h.wet || "spray"}
          options={WORDS.wets}
          onChange={(w) => set((x) => Object.assign(x.held, { wet: w }))}
        />
        <Choice
          label="Its metal"
          value={h.metal ?? ""}
          options={METALS}
          onChange={(m) =>
            set((x) => {
              if (m) x.held.metal = m as HeldInput["metal"];
              else delete x.held.metal;
            })
          }
        />
      </div>
      <Checks
        all={[
          ["gripped", "People hold on to it, lean or sit on it"],
          ["pole", "Part of it hangs in the water"],
        ]}
        on={(key) => (key === "pole" ? h.pole !== undefined : (h.gripped ?? false))}
        set={(key, on) =>
          set((x) => {
            if (key === "gripped") x.held.gripped = on;
            else if (on) x.held.pole = { wet_m: 0, diameter_m: 0, clamp_to_water_m: 0, speed_m_s: 0 };
            else delete x.held.pole;
          })
        }
      />
      {h.pole && <div className="grid grid-cols-2 gap-x-4 gap-y-2">{numbers(fields.pole)}</div>}
      {text("sealant", "Sealant")}
      {text("backing", "Behind it: washers, a plate, of what")}
      {text("drilled", "Holes made in the boat")}
      <Template me={me} rigging={rigging} hand={hand} fields={fields} onChange={onChange} set={set} />
    </div>
  );
}

/** What is cut and drilled, and the template of it at true scale. */
function Template({ me, rigging, fields, hand, onChange, set }: PartProps) {
  const h = hand.chosen.held;
  const [holes, setHoles] = useState(() => holesText(h.pattern_mm));
  const wrong = holesOf(holes) === undefined;
  const at = `/api/crews/${me.crew_id}/boats/${rigging.id}/fittings/${hand.id}/template`;
  return (
    <section aria-label="Template" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">Template</h2>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Numbers
          fields={fields.cut}
          hand={hand.values}
          onChange={(v) => onChange({ ...hand, values: { ...hand.values, ...v } })}
        />
      </div>
      <Loose
        label="Its holes from the middle, mm: 40, 20; -40, 20"
        max={1500}
        value={holes}
        onChange={(v) => {
          setHoles(v);
          const list = holesOf(v);
          if (list) set((x) => Object.assign(x.held, { pattern_mm: list }));
        }}
      />
      <p className={wrong ? "text-loud" : "quiet"}>
        {wrong
          ? "Write two numbers for each hole, holes parted by semicolons."
          : "Empty: near the corners of the foot."}
      </p>
      {hand.id ? (
        <p className="flex flex-wrap gap-2">
          {(
            [
              ["Template, PDF", ""],
              ["mirrored", "?mirrored=true"],
              ["SVG", "?format=svg"],
            ] as const
          ).map(([label, query]) => (
            <a
              key={label}
              className="plain-button inline-flex items-center"
              href={at + query}
              target="_blank"
              rel="noreferrer"
            >
              {label}
            </a>
          ))}
          <span className="quiet text-sm">As it was kept last. Measure the ruler on the print.</span>
        </p>
      ) : (
        <p className="quiet">Once it is mounted, its template can be printed at true scale.</p>
      )}
    </section>
  );
}

type NumbersProps = { fields: NumberField[]; hand: Values; onChange: (v: Values) => void };

/** Numbers of which any may stay empty. */
function Numbers({ fields, hand, onChange }: NumbersProps) {
  return fields.map((f) => (
    <div key={f.key} className="grid content-start">
      <Loose label={f.label} value={hand[f.key] ?? ""} unit={f.unit} onChange={(v) => onChange({ [f.key]: v })} />
      {f.hint && <span className="quiet text-sm leading-tight">{f.hint}</span>}
    </div>
  ));
}
