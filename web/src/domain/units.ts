import { SYSTEMS } from "./units.gen";

export type System = keyof typeof SYSTEMS;

/** Writes quantities, given in SI, in a member's units. Factors come from core/units. */
export function unitsOf(system: System) {
  const s = SYSTEMS[system];
  const fixed = (v: number, digits: number) => {
    const text = v.toFixed(digits);
    return Number(text) === 0 ? (0).toFixed(digits) : text.replace("-", "−");
  };
  return {
    system,
    /** A freeboard, from metres: millimetres or inches. */
    small: (m: number) => fixed(m / s.small.si, s.decimals),
    smallUnit: s.small.symbol,
    /** The change of a freeboard, with its sign. */
    smallChange: (m: number) => signed(fixed(m / s.small.si, s.decimals)),
    /** A mass, from kilograms. */
    mass: (kg: number, digits = kg < 10 && kg !== 0 ? 1 : 0) => fixed(kg / s.mass.si, digits),
    massUnit: s.mass.symbol,
    /** A mass that is a legal limit, in both systems. */
    massLegal: (kg: number) => `${fixed(kg, 0)} kg, ${fixed(kg / SYSTEMS.us.mass.si, 0)} lb`,
    /** A side of a box, from metres: centimetres or inches. */
    side: (m: number) => fixed(m / s.side.si, system === "us" ? 1 : 0),
    sideUnit: s.side.symbol,
    /** A position along the boat, from metres. */
    length: (m: number, digits = 1) => fixed(m / s.length.si, digits),
    lengthUnit: s.length.symbol,
    /** A volume, from litres. */
    volume: (l: number) => fixed(l / s.volume.si, 0),
    volumeUnit: s.volume.symbol,
    /** A wind, from metres a second, with its unit. */
    wind: (ms: number) => `${fixed(ms / s.speed.si, 0)} ${s.speed.symbol}`,
    /** A temperature, from degrees Celsius, with its unit. */
    temperature: (c: number) => (system === "us" ? `${(1.8 * c + 32).toFixed(0)} °F` : `${c.toFixed(0)} °C`),
    /** A distance over land, from metres, with its unit. */
    way: (m: number) => `${fixed(m / s.way.si, 1)} ${s.way.symbol}`,
    /** A tightening or turning moment, from newton metres, with its unit. */
    torque: (nm: number, digits = 0) => `${fixed(nm / s.torque.si, digits)} ${s.torque.symbol}`,
    torqueUnit: s.torque.symbol,
    torqueSI: s.torque.si,
    /** What a strap holds; SI is newtons. */
    strapUnit: s.strap.symbol,
    strapSI: s.strap.si,
    /** Of tyres; SI is pascals. */
    pressureUnit: s.pressure.symbol,
    pressureSI: s.pressure.si,
    volumeSI: s.volume.si,
    lengthSI: s.length.si,
    massSI: s.mass.si,
    sideSI: s.side.si,
  };
}

export type Units = ReturnType<typeof unitsOf>;

export function signed(text: string): string {
  return text.startsWith("−") || Number(text) === 0 ? text : `+${text}`;
}

/** An angle in degrees, without a sign where a word gives the direction. */
export function degrees(d: number): string {
  const text = d.toFixed(1);
  return Number(text) === 0 ? "0.0" : text.replace("-", "−");
}

export function heelWords(d: number): string {
  if (Math.abs(d) < 0.05) return "upright";
  return d > 0 ? "to starboard" : "to port";
}

export function trimWords(d: number): string {
  if (Math.abs(d) < 0.05) return "level";
  return d > 0 ? "bow up" : "bow down";
}
