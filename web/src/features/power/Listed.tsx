import { Plus } from "lucide-react";
import type { Units } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Amount } from "../../ui/Amount";
import { Choice, Loose } from "../../ui/Form";
import { figure, freshKey, type Net, type Power } from "./net";
import { Pumps, Wells } from "./Pumps";

const KINDS = Object.fromEntries(WORDS.load_kinds);

/** What most boats have: a press lists it, with its usual draw as a guess. */
const USUAL = ["lights", "bilge", "radio", "sonar"] as const;

const ROLES = Object.fromEntries(WORDS.bank_roles);

type Props = {
  crew: string;
  power: Power;
  net: Net;
  units: Units;
  chosen?: string;
  may: boolean;
  onChoose: (key: string) => void;
  onNet: (net: Net) => void;
};

/** What wants a hand first, then her banks, what charges them, and more to add. */
export function Listed({ crew, power, net, units, may, onChoose, onNet }: Props) {
  const wrong = power.findings.filter((f) => !f.note);
  const notes = power.findings.filter((f) => f.note);
  return (
    <div className="grid gap-3">
      <h1 className="label-type text-xl">Power of {power.name}</h1>
      <section aria-label="What wants a hand">
        <p className={`label-type text-2xl leading-tight ${wrong.length > 0 ? "text-loud" : ""}`} role="status">
          {net.banks.length === 0
            ? "Nothing is listed yet."
            : wrong.length === 0
              ? "Nothing wants a hand."
              : `${wrong.length} ${wrong.length === 1 ? "thing wants" : "things want"} a hand`}
        </p>
        <Found list={wrong} onChoose={onChoose} />
        {notes.length > 0 && (
          <details>
            <summary className="min-h-11 cursor-pointer content-center underline">Good to know: {notes.length}</summary>
            <Found list={notes} onChoose={onChoose} />
          </details>
        )}
      </section>
      <section aria-label="Banks" className="grid gap-2">
        {net.banks.map((b) => {
          const v = power.banks.find((x) => x.key === b.key);
          return (
            <button
              key={b.key}
              type="button"
              className="grid cursor-pointer gap-0.5 border border-(--hair) bg-base-100 p-2 text-left"
              onClick={() => onChoose(b.key)}
            >
              <span className="flex justify-between gap-2">
                <b>{b.name}</b>
                <span className="quiet">{ROLES[b.role]}</span>
              </span>
              <span className="figure-type">
                {v?.known
                  ? `${figure(v.volts)} V, ${figure(v.usable_ah)} of ${figure(v.amp_hours)} Ah to be used, feeds ${v.feeds}`
                  : "Say what its batteries are."}
              </span>
            </button>
          );
        })}
      </section>
      <Pumps power={power} units={units} />
      {may && <Adding power={power} net={net} onNet={onNet} onChoose={onChoose} />}
      {may && net.banks.length > 0 && (
        <>
          <Chargers power={power} net={net} onNet={onNet} />
          <Wells power={power} net={net} units={units} onNet={onNet} />
        </>
      )}
      {net.banks.length > 0 && <Sheets crew={crew} boat={power.id} />}
      {power.cautions.map((c) => (
        <p key={c} className="quiet text-sm leading-snug">
          {c}
        </p>
      ))}
    </div>
  );
}

const SHEETS = [
  ["diagram", "Diagram"],
  ["fuses", "Fuses"],
  ["labels", "Labels"],
  ["labels-night", "Labels for night"],
  ["flags", "Wire flags"],
] as const;

/** What of her electrics is printed, as kept. */
function Sheets({ crew, boat }: { crew: string; boat: string }) {
  return (
    <nav aria-label="For paper" className="flex flex-wrap items-center gap-x-4">
      <span>For paper:</span>
      {SHEETS.map(([key, label]) => (
        <a
          key={key}
          className="grid min-h-11 place-items-center underline"
          href={`/api/crews/${crew}/boats/${boat}/power/sheet?kind=${key}`}
          target="_blank"
          rel="noreferrer"
        >
          {label}
        </a>
      ))}
    </nav>
  );
}

function Found({ list, onChoose }: { list: Power["findings"]; onChoose: (key: string) => void }) {
  return (
    <ul>
      {list.map((f) => (
        <li key={f.about + f.said} className="hairline-b">
          <button
            type="button"
            className="w-full cursor-pointer py-2 text-left leading-snug hover:bg-base-100"
            onClick={() => onChoose(f.about)}
          >
            <b>{f.name}:</b> {f.said} {f.settle && <span className="quiet">{f.settle}</span>}
          </button>
        </li>
      ))}
    </ul>
  );
}

function Adding({ power, net, onNet, onChoose }: Pick<Props, "power" | "net" | "onNet" | "onChoose">) {
  const first = net.parts.find((p) => p.kind === "panel")?.key ?? net.parts[0]?.key ?? net.banks[0]?.key;
  const add = (text: string, make: () => [string, Net]) => (
    <button
      key={text}
      type="button"
      className="plain-button flex items-center gap-1.5"
      onClick={() => {
        const [key, next] = make();
        onNet(next);
        onChoose(key);
      }}
    >
      <Plus size={16} aria-hidden="true" /> {text}
    </button>
  );
  const usual = first === undefined ? [] : USUAL.filter((k) => !net.circuits.some((c) => c.kind === k));
  return (
    <div className="flex flex-wrap gap-2">
      {usual.map((kind) => {
        const name = KINDS[kind] ?? kind;
        return add(name, () => {
          const key = freshKey(net, "circuit");
          const circuit = { key, name, kind, from: first ?? "", known: "guess" as const };
          return [key, { ...net, circuits: [...net.circuits, circuit] }];
        });
      })}
      {add("A bank", () => {
        const key = freshKey(net, "bank");
        const role = net.banks.length === 0 ? ("start" as const) : ("house" as const);
        const usual = net.banks.length === 0 ? "starting battery" : "house battery";
        // A battery that is among her weights and in no bank yet is most likely meant.
        const mass = power.masses.find((m) => !net.banks.some((b) => b.fixed?.mass === m));
        const fixed = mass ? { count: 1, chemistry: "agm" as const, volts: 12, amp_hours: 80, mass } : undefined;
        return [
          key,
          { ...net, banks: [...net.banks, { key, name: mass ?? usual, role, batteries: [], series: 1, fixed }] },
        ];
      })}
      {first !== undefined &&
        add("A breaker, panel, selector…", () => {
          const key = freshKey(net, "part");
          const part = { key, kind: "panel" as const, name: "switch panel", from: [net.banks[0]?.key ?? first] };
          return [key, { ...net, parts: [...net.parts, part] }];
        })}
      {first !== undefined &&
        add("Another circuit", () => {
          const key = freshKey(net, "circuit");
          const circuit = { key, name: "new circuit", kind: "other" as const, from: first, known: "guess" as const };
          return [key, { ...net, circuits: [...net.circuits, circuit] }];
        })}
    </div>
  );
}

/** What charges her banks, and what her starter draws. */
function Chargers({ power, net, onNet }: Pick<Props, "power" | "net" | "onNet">) {
  const list = net.chargers ?? [];
  const set = (i: number, change: Partial<(typeof list)[number]>) =>
    onNet({ ...net, chargers: list.map((c, k) => (k === i ? { ...c, ...change } : c)) });
  return (
    <details>
      <summary className="plain-button w-fit content-center px-4 py-2.5">
        What charges them: {list.length || "nothing yet"}
      </summary>
      <div className="grid gap-2 pt-2">
        {list.map((c, i) => (
          <fieldset
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the list
            key={i}
            className="grid grid-cols-2 gap-x-4 gap-y-1 border border-(--hair) bg-base-100 p-2"
          >
            <legend className="sr-only">{c.name}</legend>
            <Loose label="Name" required max={60} value={c.name} onChange={(name) => set(i, { name })} />
            <Choice label="It is" value={c.kind} options={WORDS.charger_kinds} onChange={(kind) => set(i, { kind })} />
            <Choice
              label="Charges"
              value={c.bank}
              options={net.banks.map((b) => [b.key, b.name] as const)}
              onChange={(bank) => set(i, { bank })}
            />
            <Amount label="At the most" unit="A" value={c.amps} onChange={(amps) => set(i, { amps: amps ?? 0 })} />
            <button
              type="button"
              className="min-h-11 cursor-pointer justify-self-start underline"
              onClick={() => onNet({ ...net, chargers: list.filter((_, k) => k !== i) })}
            >
              Take it off
            </button>
          </fieldset>
        ))}
        <button
          type="button"
          className="plain-button flex items-center gap-1.5 justify-self-start"
          onClick={() =>
            onNet({
              ...net,
              chargers: [
                ...list,
                { kind: "shore", name: `charger ${list.length + 1}`, bank: net.banks[0]?.key ?? "", amps: 6 },
              ],
            })
          }
        >
          <Plus size={16} aria-hidden="true" /> A charger
        </button>
        <Amount
          label="What her starter draws"
          unit="A"
          usual={power.starter_a ? `about ${Math.round(power.starter_a)}` : "not known"}
          value={net.starter_a}
          onChange={(starter_a) => onNet({ ...net, starter_a })}
        />
      </div>
    </details>
  );
}
