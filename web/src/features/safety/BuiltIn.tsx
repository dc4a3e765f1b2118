import { useQueryClient } from "@tanstack/react-query";
import { Plus, X } from "lucide-react";
import { freshGear } from "../../api/ask";
import { writeSafety } from "../../api/askSafety";
import type { Membership, Schemas } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { Checks, Choice, Loose, NotANumber, SaveForm } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";

type Fixed = Schemas["FixedThing"];

/** What many boats have built in: one press lists it. */
const USUAL: Fixed[] = [
  { class: "navigation lights", name: "navigation lights", where: "bow and stern" },
  { class: "stop cord", name: "stop-cord", where: "at the wheel", spot: "helm" },
  { class: "drain plug", name: "transom plug", where: "foot of the transom", spot: "stern" },
  { class: "bilge pump", name: "bilge pump", where: "at the transom", spot: "stern" },
  { class: "horn", name: "horn", where: "at the wheel", spot: "helm" },
  { class: "radio", name: "fixed radio", where: "at the wheel", spot: "helm" },
  { class: "ladder", name: "ladder", where: "at the stern", spot: "stern_port" },
  { class: "compass", name: "compass", where: "at the wheel", spot: "helm" },
];

const HP_KW = 0.745699872; // mechanical horsepower, 550 ft·lbf/s

/** What rules ask of the boat herself, and what is built into her. */
export function BuiltIn({ me, s }: { me: Membership; s: Schemas["BoatSafety"] }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.carriage.${s.id}.${me.units}`;
  const c = s.carriage;
  const us = me.units === "us";
  const power = c.power_kw ? String(Number((us ? c.power_kw / HP_KW : c.power_kw).toFixed(1))) : "";
  const [f, setF] = useDraft(`${scope}.facts`, {
    power,
    fuel: c.fuel ?? "",
    closed: c.closed_spaces === undefined ? "" : c.closed_spaces ? "yes" : "no",
    built: c.built ? String(c.built) : "",
    electric: c.electric ?? false,
  });
  const [fixed, setFixed] = useDraft<Fixed[]>(`${scope}.fixed`, c.fixed ?? []);
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  const row = (i: number, change: Partial<Fixed>) => setFixed(fixed.map((x, k) => (k === i ? { ...x, ...change } : x)));
  const number = (text: string, what: string) => {
    const n = text.trim() === "" ? 0 : Number(text.replace(",", "."));
    if (!Number.isFinite(n)) throw new NotANumber(`${what}: write a number, or nothing where it is not known.`);
    return n;
  };
  const body = () => ({
    power_kw: number(f.power, "Power") * (us ? HP_KW : 1) || undefined,
    fuel: (f.fuel || undefined) as Schemas["CarriageInput"]["fuel"],
    closed_spaces: f.closed === "" ? undefined : f.closed === "yes",
    built: Math.round(number(f.built, "Built")) || undefined,
    electric: f.electric || undefined,
    fixed,
  });
  const changes = may(me, "change_boat");
  return (
    <fieldset disabled={!changes}>
      <SaveForm
        name="Built in, and what rules ask"
        draft={scope}
        button="Keep it"
        save={async () => writeSafety.carriage(me.crew_id, s.id, body(), s.version)}
        onSaved={() => freshGear(queries)}
      >
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          <Loose
            label="Power of her motor"
            unit={us ? "hp" : "kW"}
            value={f.power}
            onChange={(v) => put({ power: v })}
          />
          <Loose label="Built in the year" unit="" value={f.built} onChange={(built) => put({ built })} />
          <Choice
            label="Fuel"
            value={f.fuel}
            options={[["", "not said"], ...WORDS.carriage_fuels]}
            onChange={(fuel) => put({ fuel })}
          />
          <Choice
            label="Spaces where vapour gathers"
            value={f.closed}
            options={[
              ["", "not said"],
              ["yes", "yes, or a built-in tank"],
              ["no", "none"],
            ]}
            onChange={(closed) => put({ closed })}
          />
        </div>
        <Checks
          all={[["electric", "the motor is electric"]]}
          on={() => f.electric}
          set={(_, electric) => put({ electric })}
        />
        {fixed.map((x, i) => (
          <fieldset
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the list
            key={i}
            className="relative grid grid-cols-2 gap-x-4 gap-y-1 border border-(--hair) p-2 pr-11"
          >
            <legend className="sr-only">{x.name}</legend>
            <Loose label="Name" required value={x.name} onChange={(name) => row(i, { name })} />
            <Choice
              label="It is"
              value={x.class}
              options={WORDS.safety_classes}
              onChange={(v) => row(i, { class: v })}
            />
            <Loose label="Where, in words" value={x.where ?? ""} onChange={(where) => row(i, { where })} />
            <Choice
              label="On the drawing"
              value={x.spot ?? ""}
              options={[["", "not drawn"], ...WORDS.fixed_spots]}
              onChange={(v) => row(i, { spot: (v || undefined) as Fixed["spot"] })}
            />
            <Loose
              label="Last good day"
              type="date"
              value={x.expires_on ?? ""}
              onChange={(v) => row(i, { expires_on: v || undefined })}
            />
            <button
              type="button"
              aria-label={`Not built in: ${x.name}`}
              className="absolute top-0 right-0 grid size-11 cursor-pointer place-items-center"
              onClick={() => setFixed(fixed.filter((_, k) => k !== i))}
            >
              <X size={16} aria-hidden="true" />
            </button>
          </fieldset>
        ))}
        <div className="flex flex-wrap gap-2">
          {USUAL.filter((u) => !fixed.some((x) => x.class === u.class)).map((u) => (
            <Add key={u.name} text={u.name} onAdd={() => setFixed([...fixed, u])} />
          ))}
          <Add
            text="Something else"
            onAdd={() => setFixed([...fixed, { class: "lifejacket", name: `thing ${fixed.length + 1}` }])}
          />
        </div>
      </SaveForm>
    </fieldset>
  );
}

function Add({ text, onAdd }: { text: string; onAdd: () => void }) {
  return (
    <button type="button" className="plain-button flex items-center gap-1.5" onClick={onAdd}>
      <Plus size={16} aria-hidden="true" /> {text}
    </button>
  );
}
