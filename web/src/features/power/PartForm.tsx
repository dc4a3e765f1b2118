import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Amount } from "../../ui/Amount";
import { Checks, Choice, Loose } from "../../ui/Form";
import { type Bank, feeders, figure, type Net, nameOf, type Part, type Power } from "./net";

type PartProps = { power: Power; net: Net; part: Part; units: Units; onChange: (p: Part) => void };

/** What stands between banks and circuits. */
export function PartForm({ power, net, part, units, onChange }: PartProps) {
  const set = (change: Partial<Part>) => onChange({ ...part, ...change });
  const metres = { unit: units.lengthUnit, si: units.lengthSI };
  const may = feeders(net, part.key);
  const selects = part.kind === "selector";
  const protects = part.kind === "fuse" || part.kind === "breaker";
  const at = part.at_m;
  return (
    <>
      <Dies power={power} net={net} of={part.key} />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Loose label="Name" required max={60} value={part.name} onChange={(name) => set({ name })} />
        <Choice
          label="It is"
          value={part.kind}
          options={WORDS.net_parts}
          onChange={(kind) => set({ kind, from: kind === "selector" ? part.from : part.from.slice(0, 1) })}
        />
        <Choice
          label={selects ? "Its 1" : "Fed by"}
          value={part.from[0] ?? ""}
          options={may}
          onChange={(from) => set({ from: [from, ...part.from.slice(1)] })}
        />
        {selects && (
          <Choice
            label="Its 2"
            value={part.from[1] ?? ""}
            options={[["", "nothing"], ...may]}
            onChange={(from) => set({ from: [part.from[0] ?? "", ...(from ? [from] : [])] })}
          />
        )}
        {protects && <Amount label="Rated" unit="A" value={part.rating_a} onChange={(v) => set({ rating_a: v })} />}
        {!protects && !selects && part.kind !== "switch" && (
          <Amount label="Ways" value={part.ways} onChange={(v) => set({ ways: v && Math.round(v) })} />
        )}
        {protects && (
          <Amount
            label="Wire from its source"
            {...metres}
            value={part.from_source_m}
            onChange={(v) => set({ from_source_m: v })}
          />
        )}
        <Choice
          label="Under a lid in"
          value={part.place_id ?? ""}
          options={[["", "the open"], ...power.places.map((q) => [q.id, q.name] as const)]}
          onChange={(id) => set({ place_id: id || undefined })}
        />
      </div>
      <fieldset>
        <legend className="text-sm">Where it is: ahead of the transom, to port, over the keel</legend>
        <div className="grid grid-cols-3 gap-x-3">
          {(["Ahead", "To port", "Height"] as const).map((label, k) => (
            <Amount
              key={label}
              label={label}
              {...metres}
              value={at?.[k]}
              onChange={(v) => {
                const to = [...(at ?? [0, 0, 0])] as [number, number, number];
                to[k] = v ?? 0;
                set({ at_m: to.some((q) => q !== 0) ? to : undefined });
              }}
            />
          ))}
        </div>
      </fieldset>
      {protects && (
        <Checks
          all={[["sheathed", "its wire is in a sheath or conduit"]]}
          on={() => Boolean(part.sheathed)}
          set={(_, on) => set({ sheathed: on || undefined })}
        />
      )}
    </>
  );
}

/** What has nothing to feed it where a part is gone. */
function Dies({ power, net, of }: { power: Power; net: Net; of: string }) {
  const dies = power.parts.find((p) => p.key === of)?.dies ?? [];
  return (
    <p className="border-(--hair) border-y py-2 leading-snug">
      {dies.length > 0 ? (
        <>
          <b>Dies with it:</b> {dies.map((k) => nameOf(net, k)).join(", ")}.
        </>
      ) : (
        "Nothing dies with it."
      )}
    </p>
  );
}

type BankProps = { power: Power; net: Net; bank: Bank; onChange: (b: Bank) => void };

/** A bank: gear of the crew's, or batteries that are fixed in her. */
export function BankForm({ power, net, bank, onChange }: BankProps) {
  const set = (change: Partial<Bank>) => onChange({ ...bank, ...change });
  const v = power.banks.find((b) => b.key === bank.key);
  const f = bank.fixed;
  return (
    <>
      <Dies power={power} net={net} of={bank.key} />
      {v?.known && (
        <p className="leading-snug">
          <b>
            {figure(v.volts)} V, {figure(v.amp_hours)} Ah as new.
          </b>{" "}
          Holds {figure(v.holds_ah)} Ah today{v.years > 0.5 ? `, ${figure(v.years, 2)} years old` : ""};{" "}
          {figure(v.usable_ah)} Ah of that may be taken out.
        </p>
      )}
      {v?.learned && <Taught power={power} l={v.learned} holds={bank.holds} onTake={(holds) => set({ holds })} />}
      <div className="grid grid-cols-2 gap-x-4 gap-y-2">
        <Loose label="Name" required max={60} value={bank.name} onChange={(name) => set({ name })} />
        <Choice label="It" value={bank.role} options={WORDS.bank_roles} onChange={(role) => set({ role })} />
        <Choice
          label="Its batteries are"
          value={f ? "fixed" : "gear"}
          options={[
            ["gear", "gear on the list"],
            ["fixed", "fixed in her"],
          ]}
          onChange={(how) =>
            set(
              how === "fixed"
                ? { batteries: [], fixed: { count: 1, chemistry: "agm", volts: 12, amp_hours: 80 } }
                : { fixed: undefined },
            )
          }
        />
        <Amount
          label="In series"
          value={bank.series}
          onChange={(n) => set({ series: Math.max(1, Math.round(n ?? 1)) })}
        />
      </div>
      {f ? (
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          <Amount
            label="How many"
            value={f.count}
            onChange={(n) => set({ fixed: { ...f, count: Math.max(1, Math.round(n ?? 1)) } })}
          />
          <Choice
            label="Chemistry"
            value={f.chemistry}
            options={WORDS.chemistries}
            onChange={(chemistry) => set({ fixed: { ...f, chemistry } })}
          />
          <Amount
            label="Volts of one"
            unit="V"
            value={f.volts}
            onChange={(n) => set({ fixed: { ...f, volts: n ?? 0 } })}
          />
          <Amount
            label="Ampere-hours of one"
            unit="Ah"
            value={f.amp_hours}
            onChange={(n) => set({ fixed: { ...f, amp_hours: n ?? 0 } })}
          />
          <Amount
            label="Cold-cranking amperes"
            unit="A"
            value={f.cranking_a}
            onChange={(n) => set({ fixed: { ...f, cranking_a: n } })}
          />
          <Loose
            label="In use since"
            type="date"
            value={f.in_use_since ?? ""}
            onChange={(d) => set({ fixed: { ...f, in_use_since: d || undefined } })}
          />
          <Choice
            label="Among her masses"
            value={f.mass ?? ""}
            options={[
              ["", "not counted yet"],
              ...power.masses.map((m) => [m, m] as const),
              ...counted(f.mass, power.masses),
            ]}
            onChange={(mass) => set({ fixed: { ...f, mass: mass || undefined } })}
          />
        </div>
      ) : (
        <Batteries power={power} bank={bank} onChange={(batteries) => set({ batteries })} />
      )}
      <Checks
        all={[
          ["held_down", "held down"],
          ["vented", "its gas has a vent to the open"],
        ]}
        on={(key) => Boolean(bank[key as "vented"])}
        set={(key, on) => set({ [key]: on || undefined })}
      />
      <Amount
        label="Holds, of what it did when new, as measured"
        unit="%"
        si={0.01}
        usual="by its age"
        value={bank.holds}
        onChange={(holds) => set({ holds })}
      />
    </>
  );
}

type TaughtProps = {
  power: Power;
  l: NonNullable<Power["banks"][number]["learned"]>;
  holds: number | undefined;
  onTake: (holds: number) => void;
};

/** What its volts at rest said, to be taken over by a press. */
function Taught({ power, l, holds, onTake }: TaughtProps) {
  const share = (v: number) => `${Math.round(v * 100)} %`;
  return (
    <div className="grid gap-1 leading-snug" data-testid="learned">
      <p>
        <b>
          By {l.evenings} evenings it holds {share(l.holds)}
        </b>{" "}
        of what it did when new, {share(l.low)} to {share(l.high)}; its age alone says {share(l.by_age)}.
      </p>
      {(l.loads ?? []).map((q) => (
        <p key={q.circuit} className="text-sm">
          {nameOf(power.net, q.circuit)} draws {figure(q.by, 2)} times what is said.
        </p>
      ))}
      {Math.abs((holds ?? 0) - l.holds) > 0.005 && (
        <button
          type="button"
          className="plain-button justify-self-start"
          onClick={() => onTake(Number(l.holds.toFixed(3)))}
        >
          Reckon with that
        </button>
      )}
    </div>
  );
}

/** The mass that a bank names, where it is none of her batteries. */
function counted(mass: string | undefined, masses: string[]): [string, string][] {
  return mass && !masses.includes(mass) ? [[mass, mass]] : [];
}

function Batteries({ power, bank, onChange }: { power: Power; bank: Bank; onChange: (ids: string[]) => void }) {
  const gone = bank.batteries.filter((id) => !power.batteries.some((b) => b.id === id));
  if (power.batteries.length === 0 && gone.length === 0)
    return (
      <p className="leading-snug">
        No gear is a battery yet: say its chemistry, volts and ampere-hours at the gear, under "A battery".
      </p>
    );
  return (
    <fieldset>
      <legend className="text-sm">Batteries in it</legend>
      <Checks
        all={[
          ...power.batteries.map(
            (b) => [b.id, `${b.name}${b.volts ? `, ${figure(b.volts)} V` : ""} (${b.where})`] as const,
          ),
          ...gone.map((id) => [id, "a battery that is off the list"] as const),
        ]}
        on={(id) => bank.batteries.includes(id)}
        set={(id, on) => onChange(on ? [...bank.batteries, id] : bank.batteries.filter((x) => x !== id))}
      />
    </fieldset>
  );
}
