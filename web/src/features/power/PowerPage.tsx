import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askPower, writePower } from "../../api/askPower";
import { type Membership, Refusal, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import type { Projection } from "../../drawing/projection";
import { SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { Tabs } from "../../ui/Tabs";
import { useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";
import { useTitle } from "../../ui/useTitle";
import { CircuitForm } from "./CircuitForm";
import { Listed } from "./Listed";
import { type Chosen, type Circuit, find, type Net, nameOf, type Power, put, without } from "./net";
import { OneLine } from "./OneLine";
import { BankForm, PartForm } from "./PartForm";
import { Wires } from "./Wires";

/** Her batteries and circuits: on the boat, on one line, and what wants a hand. */
export default function PowerPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const power = useQuery(askPower.boat(me.crew_id, boat));
  useTitle(power.data && `Power, ${power.data.name}`);
  if (power.isPending) return <Waiting text="Following her wires…" />;
  if (power.isError) return <ErrorNote text={sayError(power.error)} onRetry={() => power.refetch()} />;
  return <Shown key={boat} me={me} saved={power.data} />;
}

const HEIGHT = 0.5; // metres over the keel, of a point that nobody placed in height

function Shown({ me, saved }: { me: Membership; saved: Power }) {
  const scope = `${me.crew_id}.power.${saved.id}`;
  const [net, setNet] = useDraft<Net>(`${scope}.net`, saved.net);
  const [query] = useSearchParams();
  const [chosen, choose] = useState<string | undefined>(query.get("at") ?? undefined);
  const [seen, setSeen] = useState<"boat" | "line">("line");
  const [drawing, setDrawing] = useState(false);
  const units = useMemo(() => unitsOf(me.units), [me.units]);
  const changed = JSON.stringify(net) !== JSON.stringify(saved.net);
  const asked = useSettled(changed ? JSON.stringify(net) : undefined, 150);
  const tried = useQuery(askPower.tried(me.crew_id, saved.id, asked));
  const power = (changed && asked !== undefined && tried.data) || saved;
  const wrong = useMemo(() => new Set(power.findings.filter((f) => !f.note).map((f) => f.about)), [power]);
  const one = find(net, chosen);
  const pick = (key: string | undefined) => {
    choose(key);
    setDrawing(false);
  };
  const mayChange = may(me, "change_boat");
  return (
    <main className="flex shrink-0 flex-auto flex-col lg:grid lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_minmax(380px,450px)]">
      <div className="flex min-h-0 min-w-0 flex-col bg-base-100">
        {power.findings.some((f) => !f.note) && !one && (
          <p className="px-4 pt-3 leading-snug lg:hidden">
            <b className="text-loud">{power.findings[0]?.name}:</b> {power.findings[0]?.said}
          </p>
        )}
        <div className="px-3">
          <Tabs of="Seen" tabs={SEEN} chosen={seen} onChoose={setSeen}>
            {net.banks.length === 0 && seen === "line" && (
              <p className="self-center pl-3">Begin with a bank: what her batteries are.</p>
            )}
          </Tabs>
        </div>
        {seen === "line" ? (
          <div className="min-h-0 min-w-0 flex-1 lg:overflow-y-auto">
            <OneLine p={{ ...power, net: drawnNet(power, net) }} chosen={chosen} wrong={wrong} onChoose={pick} />
          </div>
        ) : (
          <OnBoat
            power={power}
            net={net}
            chosen={chosen}
            wrong={wrong}
            onChoose={pick}
            onPoint={
              drawing && one?.list === "circuits" ? (at) => setNet(put(net, one, pointed(one.one, at))) : undefined
            }
          />
        )}
      </div>
      <section
        aria-label="Her electrics"
        className="relative min-h-0 overflow-y-auto border-(--hair) bg-base-200 p-4 pb-24 lg:border-l"
      >
        <Keeping me={me} saved={saved} scope={scope} net={net} changed={changed} may={mayChange}>
          {tried.error && changed ? <NotRight error={tried.error} /> : null}
          {one ? (
            <One
              may={mayChange}
              power={power}
              net={net}
              one={one}
              units={units}
              drawing={drawing}
              onDraw={(on) => {
                setDrawing(on);
                if (on) setSeen("boat");
              }}
              onNet={setNet}
              onBack={() => pick(undefined)}
            />
          ) : (
            <Listed
              crew={me.crew_id}
              power={power}
              net={net}
              units={units}
              chosen={chosen}
              may={mayChange}
              onChoose={pick}
              onNet={setNet}
            />
          )}
        </Keeping>
      </section>
    </main>
  );
}

/** The names of what is drawn: those typed, where the drawing knows them already. */
function drawnNet(power: Power, net: Net): Net {
  const keys = new Set([...power.diagram.parts, ...power.diagram.circuits].map((s) => s.key));
  const all = [...net.banks, ...net.parts, ...net.circuits];
  return all.every((x) => keys.has(x.key)) && all.length === keys.size ? net : power.net;
}

function pointed(c: Circuit, [x, y]: [number, number]): Circuit {
  const z = c.route_m?.at(-1)?.[2] ?? HEIGHT;
  return { ...c, route_m: [...(c.route_m ?? []), [x, y, z]] };
}

const SEEN = [
  ["line", "On one line"],
  ["boat", "On the boat"],
] as const;

type OnBoatProps = {
  power: Power;
  net: Net;
  chosen?: string;
  wrong: Set<string>;
  onChoose: (key: string) => void;
  onPoint?: (at: [number, number]) => void;
};

function OnBoat({ power, net, chosen, wrong, onChoose, onPoint }: OnBoatProps) {
  const solids = useMemo(
    () => power.places.map((q) => ({ name: q.name, corner: q.corner_m, size: q.size_m, quiet: true, unnamed: true })),
    [power.places],
  );
  const names = useCallback((p: Projection) => namesOn(p, power, net, chosen), [power, net, chosen]);
  const children = useCallback(
    (p: Projection) => (
      <Wires p={p} power={power} net={net} chosen={chosen} wrong={wrong} onChoose={onChoose} onPoint={onPoint} />
    ),
    [power, net, chosen, wrong, onChoose, onPoint],
  );
  return (
    <BoatDrawing lines={power.lines} name={power.name} attitude={power.attitude} upright solids={solids} names={names}>
      {children}
    </BoatDrawing>
  );
}

/** Names of banks, of what stands in the lines, and of what is chosen. */
function namesOn(p: Projection, power: Power, net: Net, chosen: string | undefined) {
  const all = power.parts.map((q) => [q.key, q.at_m] as const);
  const c = power.circuits.find((q) => q.key === chosen);
  if (c) all.push([c.key, c.at_m]);
  return all.flatMap(([key, at]) => {
    if (!at) return [];
    const [x, y] = p.plan(at[0], at[1]);
    return [{ key, text: nameOf(net, key), box: { x: x - 11, y: y - 8, width: 22, height: 16 }, leader: true }];
  });
}

type KeepingProps = {
  me: Membership;
  saved: Power;
  scope: string;
  net: Net;
  changed: boolean;
  may: boolean;
  children: React.ReactNode;
};

/** What is typed is a draft until it is kept, all of it or nothing. */
function Keeping({ me, saved, scope, net, changed, may: mayChange, children }: KeepingProps) {
  const queries = useQueryClient();
  if (!mayChange) return <div className="grid gap-3">{children}</div>;
  return (
    <SaveForm
      name="Her electrics"
      draft={scope}
      button={changed ? "Keep her electrics so" : "Keep it"}
      save={() => writePower.save(me.crew_id, saved.id, net, saved.version)}
      onSaved={() => freshGear(queries)}
    >
      {children}
    </SaveForm>
  );
}

function NotRight({ error }: { error: unknown }) {
  return (
    <div role="alert" className="border border-accent px-3 py-2">
      <p className="text-loud">
        <b>{sayError(error)}</b>
      </p>
      {error instanceof Refusal && (
        <ul className="list-disc pl-5 text-sm">
          {error.details.map((d) => (
            <li key={d}>{d}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

type OneProps = {
  may: boolean;
  power: Power;
  net: Net;
  one: Chosen;
  units: ReturnType<typeof unitsOf>;
  drawing: boolean;
  onDraw: (on: boolean) => void;
  onNet: (net: Net) => void;
  onBack: () => void;
};

/** What is chosen, with what is said of it. */
function One({ may: mayChange, power, net, one, units, drawing, onDraw, onNet, onBack }: OneProps) {
  const found = power.findings.filter((f) => f.about === one.one.key);
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h1 className="label-type text-2xl">{one.one.name || "No name yet"}</h1>
        <button type="button" className="plain-button" onClick={onBack}>
          All of it
        </button>
      </div>
      {found.map((f) => (
        <p key={f.said} className="leading-snug">
          <span className={f.note ? "" : "text-loud"}>{f.said}</span> {f.settle}
        </p>
      ))}
      <fieldset disabled={!mayChange} className="grid gap-3">
        <legend className="sr-only">{one.one.name}</legend>
        {one.list === "circuits" && (
          <CircuitForm
            power={power}
            net={net}
            c={one.one}
            units={units}
            drawing={drawing}
            onDraw={onDraw}
            onChange={(c) => onNet(put(net, one, c))}
          />
        )}
        {one.list === "parts" && (
          <PartForm power={power} net={net} part={one.one} units={units} onChange={(p) => onNet(put(net, one, p))} />
        )}
        {one.list === "banks" && (
          <BankForm power={power} net={net} bank={one.one} onChange={(b) => onNet(put(net, one, b))} />
        )}
      </fieldset>
      {mayChange && (
        <button
          type="button"
          className="plain-button justify-self-start"
          onClick={() => {
            onNet(without(net, one));
            onBack();
          }}
        >
          Take it off her
        </button>
      )}
    </div>
  );
}
