/** How many there are of a thing: no things, 1 thing, 3 things. */
export function howMany(n: number, noun: string, plural = `${noun}s`): string {
  return n === 1 ? `1 ${noun}` : `${n === 0 ? "no" : n} ${plural}`;
}
