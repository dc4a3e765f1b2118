// Written by web/generated_test.go; do not edit.
export const LEVELS = [
  ["sole", "Under the sole"],
  ["locker", "In lockers"],
  ["deck", "On deck"],
  ["overhead", "Overhead"],
] as const;
