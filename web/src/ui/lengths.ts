import { SYSTEMS } from "../domain/units.gen";

/** What one of a unit is in metres, as people write it behind a number. */
const UNITS: Record<string, number> = {
  m: 1,
  cm: SYSTEMS.metric.side.si,
  mm: SYSTEMS.metric.small.si,
  ft: SYSTEMS.us.length.si,
  "'": SYSTEMS.us.length.si,
  in: SYSTEMS.us.side.si,
  '"': SYSTEMS.us.side.si,
};

/** A number with a decimal point or comma, a fraction, or a whole and a fraction; undefined for anything else. */
function numberOf(text: string): number | undefined {
  const t = text.trim().replace(",", ".");
  if (/^-?\d*\.?\d+$|^-?\d+\.$/.test(t)) return Number(t);
  const m = /^(?:(\d+)[\s-]+)?(\d+)\/([1-9]\d*)$/.exec(t);
  return m ? Number(m[1] ?? 0) + Number(m[2]) / Number(m[3]) : undefined;
}

/**
 * Reads a length as people write it off a tape: 212 in the field's own unit,
 * 2.12 m, 212 cm, 63.5 in, 5' 3 1/2". Metres, or undefined.
 */
export function parseLength(text: string, unit: string): number | undefined {
  const t = text
    .trim()
    .toLowerCase()
    .replace(/[′’]/g, "'")
    .replace(/[″”]|''/g, '"');
  const feet = /^(-?)(\d+(?:\.\d+)?)\s*(?:'|ft)\s*(?:-?\s*([\d\s./-]+?)\s*(?:"|in)?)?$/.exec(t);
  if (feet) {
    const inches = feet[3] ? numberOf(feet[3].replace(/^-/, "")) : 0;
    if (inches === undefined || (feet[3] && inches >= 12)) return undefined;
    const m = Number(feet[2]) * SYSTEMS.us.length.si + inches * SYSTEMS.us.side.si;
    return feet[1] ? -m : m;
  }
  const one = /^(.*?)\s*(mm|cm|m|in|")?$/.exec(t);
  const n = one ? numberOf(one[1] ?? "") : undefined;
  const si = UNITS[one?.[2] ?? unit];
  return n === undefined || si === undefined ? undefined : n * si;
}

/** Writes a length for a field: to the millimetre, or as feet and inches to the sixteenth. */
export function lengthText(metres: number, unit: string): string {
  if (unit !== "ft") return String(Number((metres / (UNITS[unit] ?? 1)).toPrecision(6)));
  const parts = Math.round((Math.abs(metres) / SYSTEMS.us.side.si) * 16);
  const feet = Math.floor(parts / 192);
  const inches = Math.floor((parts % 192) / 16);
  const rest = parts % 16;
  const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
  const g = gcd(rest, 16);
  const fraction = rest ? `${inches ? " " : ""}${rest / g}/${16 / g}` : "";
  const tail = `${inches || !rest ? inches : ""}${fraction}"`;
  return `${metres < 0 && parts > 0 ? "-" : ""}${feet ? `${feet}' ` : ""}${tail}`;
}

export function isLength(unit: string): boolean {
  return unit in UNITS;
}
