import type { Units } from "../../domain/units";

/** In what fuel, ways and speeds are told: at sea in nautical miles and knots. */
export function fuelUnits(units: Units, sea = false) {
  const us = units.system === "us";
  const way = sea ? { unit: "nmi", si: 1852 } : us ? { unit: "mi", si: 1609.344 } : { unit: "km", si: 1000 };
  const speed = sea
    ? { unit: "kn", si: 1852 / 3600 }
    : us
      ? { unit: "mph", si: 0.44704 }
      : { unit: "km/h", si: 1 / 3.6 };
  return {
    volume: units.volumeUnit,
    volumeSI: units.volumeSI,
    way: way.unit,
    waySI: way.si,
    speed: speed.unit,
    speedSI: speed.si,
    litres: (l: number, digits = 0) => `${(l / units.volumeSI).toFixed(digits)} ${units.volumeUnit}`,
    fast: (ms: number) => `${Number((ms / speed.si).toFixed(ms / speed.si < 10 ? 1 : 0))} ${speed.unit}`,
    far: (m: number) => `${(m / way.si).toFixed(m / way.si < 10 ? 1 : 0)} ${way.unit}`,
  };
}

export type FuelUnits = ReturnType<typeof fuelUnits>;
