import { SYSTEMS } from "../domain/units.gen";

const INCH = SYSTEMS.us.side.si;
const FOOT = SYSTEMS.us.length.si;

/** What one of a unit is in metres, as people write it behind a number. */
const UNITS: Record<string, number> = {
  m: 1,
  cm: SYSTEMS.metric.side.si,
  mm: SYSTEMS.metric.small.si,
  ft: FOOT,
  in: INCH,
  inch: INCH,
  inches: INCH,
  '"': INCH,
};

/** Numbers as people write them off a tape: 12, 1.5, 1,5, .5, 3/4, 3 1/2, 3-1/2. */
const NUMBER = String.raw`(\d+[\s-]+\d+/\d+|\d+/\d+|\d*[.,]?\d+)`;
const FEET = new RegExp(
  String.raw`^${NUMBER}\s*(?:'|ft\.?|feet|foot)\s*(?:-?\s*${NUMBER}\s*(?:"|in\.?|inch(?:es)?)?)?$`,
);
const LENGTH = new RegExp(String.raw`^${NUMBER}\s*(mm|cm|m|"|in\.?|inch(?:es)?)?$`);
const LONGEST = 40;

const FRACTIONS: Record<string, string> = {
  "¼": " 1/4",
  "½": " 1/2",
  "¾": " 3/4",
  "⅓": " 1/3",
  "⅔": " 2/3",
  "⅛": " 1/8",
  "⅜": " 3/8",
  "⅝": " 5/8",
  "⅞": " 7/8",
};

/** Quotes, minus signs and printed fractions the one way that the patterns read. */
function plainly(text: string): string {
  return text
    .toLowerCase()
    .replace(/[’‘′]/g, "'")
    .replace(/[”“″]|''/g, '"')
    .replace(/−/g, "-")
    .replace(/[¼½¾⅓⅔⅛⅜⅝⅞]/g, (c) => FRACTIONS[c] ?? c)
    .trim();
}

function numberOf(text: string | undefined): number | undefined {
  if (!text) return 0;
  const m = /^(?:(\d+)[\s-]+)?(\d+)\/(\d+)$/.exec(text);
  if (!m) return Number(text.replace(",", "."));
  return Number(m[3]) === 0 ? undefined : Number(m[1] ?? 0) + Number(m[2]) / Number(m[3]);
}

/**
 * Reads a length as people write it off a tape: 212 in the field's own unit,
 * 2.12 m, 212 cm, 63.5 in, 5' 3½", -2' 6". Metres, or undefined. The rules are
 * those of units.ParseLength in the core; a test holds the two together.
 */
export function parseLength(text: string, unit: string): number | undefined {
  if (text.length > LONGEST) return undefined;
  const t = plainly(text);
  const sign = t.startsWith("-") ? -1 : 1;
  const rest = t.replace(/^[-+]/, "").trim();
  const feet = FEET.exec(rest);
  if (feet) {
    const [f, inches] = [numberOf(feet[1]), numberOf(feet[2])];
    if (f === undefined || inches === undefined || (feet[2] && inches >= 12)) return undefined;
    return sign * (f * FOOT + inches * INCH);
  }
  const one = LENGTH.exec(rest);
  const n = one ? numberOf(one[1]) : undefined;
  const si = UNITS[(one?.[2] ?? unit).replace(".", "")];
  return n === undefined || si === undefined ? undefined : sign * n * si;
}

/** Writes a length for a field: to the millimetre, or as feet and inches to the sixteenth. */
export function lengthText(metres: number, unit: string): string {
  if (unit !== "ft") return String(Number((metres / (UNITS[unit] ?? 1)).toPrecision(6)));
  const parts = Math.round((Math.abs(metres) / INCH) * 16);
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

/** Whether people write fractions and marks in this unit, which a number pad has not. */
export function fractions(unit: string): boolean {
  return unit === "ft" || unit === "in";
}
