import type { Feature } from "../domain/pages";

// Whatever stands in features/ with an index.ts is part of the program: adding a
// feature changes nothing here.
const found = import.meta.glob<{ feature: Feature }>("../features/*/index.ts", { eager: true });

/** Every page of every feature. */
export const PAGES = Object.values(found).flatMap((f) => f.feature);
