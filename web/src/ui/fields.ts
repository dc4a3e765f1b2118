import type { Units } from "../domain/units";
import type { NumberField } from "./Form";

type MakeField = (key: string, label: string, hint?: string) => NumberField;

/** A length along the boat, in the member's units. */
export const lengthField =
  (units: Units): MakeField =>
  (key, label, hint) => ({ key, label, hint, unit: units.lengthUnit, si: units.lengthSI });

/** A side of a box. */
export const sideField =
  (units: Units): MakeField =>
  (key, label, hint) => ({ key, label, hint, unit: units.sideUnit, si: units.sideSI });

/** A mass. */
export const massField =
  (units: Units): MakeField =>
  (key, label, hint) => ({ key, label, hint, unit: units.massUnit, si: units.massSI });
