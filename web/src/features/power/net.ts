import type { Schemas } from "../../api/client";

export type Power = Schemas["PowerView"];
export type Net = Schemas["NetInput"];
export type Bank = Schemas["BankInput"];
export type Part = Schemas["PartInput"];
export type Circuit = Schemas["CircuitInput"];

/** What is chosen of a net, with the list it stands in. */
export type Chosen =
  | { list: "banks"; at: number; one: Bank }
  | { list: "parts"; at: number; one: Part }
  | { list: "circuits"; at: number; one: Circuit };

/** Finds a bank, part or circuit by its key. */
export function find(net: Net, key: string | undefined): Chosen | undefined {
  for (const list of ["banks", "parts", "circuits"] as const) {
    const at = net[list].findIndex((x) => x.key === key);
    if (at >= 0) return { list, at, one: net[list][at] } as Chosen;
  }
}

export function nameOf(net: Net, key: string): string {
  return find(net, key)?.one.name ?? key;
}

/** A key that nothing has yet. */
export function freshKey(net: Net, stem: string): string {
  const keys = new Set([...net.banks, ...net.parts, ...net.circuits].map((x) => x.key));
  for (let i = 1; ; i++) if (!keys.has(`${stem}${i}`)) return `${stem}${i}`;
}

/** The net with one of its banks, parts or circuits changed. */
export function put(net: Net, chosen: Chosen, one: Chosen["one"]): Net {
  const list = [...net[chosen.list]] as Chosen["one"][];
  list[chosen.at] = one;
  return { ...net, [chosen.list]: list };
}

/** The net without one of its parts: what hung on it hangs on what fed it, or on another bank. */
export function without(net: Net, chosen: Chosen): Net {
  const gone = chosen.one.key;
  const next = { ...net, [chosen.list]: net[chosen.list].filter((x) => x.key !== gone) } as Net;
  if (chosen.list === "circuits") return next;
  const heir = chosen.list === "parts" ? chosen.one.from[0] : next.banks[0]?.key;
  const hung = (from: string) => (from === gone && heir ? heir : from);
  return {
    ...next,
    parts: next.parts.map((p) => ({
      ...p,
      from: p.kind === "selector" && p.from.length > 1 ? p.from.filter((f) => f !== gone) : p.from.map(hung),
    })),
    circuits: next.circuits.map((c) => ({ ...c, from: hung(c.from) })),
    chargers: (next.chargers ?? []).filter((c) => c.bank !== gone) as NonNullable<Net["chargers"]>,
  };
}

/** What may feed something: banks and parts, by key and name, but itself and what it feeds. */
export function feeders(net: Net, but?: string): [string, string][] {
  const below = new Set(but ? [but] : []);
  for (let grew = but !== undefined; grew; ) {
    const before = below.size;
    for (const p of net.parts) if (p.from.some((f) => below.has(f))) below.add(p.key);
    grew = below.size > before;
  }
  return [...net.banks, ...net.parts].filter((x) => !below.has(x.key)).map((x) => [x.key, x.name]);
}

export const figure = (v: number, digits = 3) => String(Number(v.toPrecision(digits)));
