/** Comes true when what was drawn last has been seen: two frames later. */
export function painted(): Promise<void> {
  return new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done))));
}
