/** A time of the day from minutes after midnight of the first day. */
export function clock(minutes: number): string {
  const m = Math.round(minutes);
  const days = Math.floor(m / 1440);
  const left = m - days * 1440;
  const text = `${Math.floor(left / 60)}:${String(left % 60).padStart(2, "0")}`;
  if (days === 0) return text;
  return days < 0 ? `${text} the day before` : days === 1 ? `${text} next day` : `${text}, day ${days + 1}`;
}

/** The same as a field of type time has it; the day is lost. */
export function timeField(minutes: number): string {
  const left = ((Math.round(minutes) % 1440) + 1440) % 1440;
  return `${String(Math.floor(left / 60)).padStart(2, "0")}:${String(left % 60).padStart(2, "0")}`;
}

/** Minutes after midnight of what a field of type time has, on the day of another. */
export function fromField(text: string, near: number): number | undefined {
  const [h, m] = text.split(":").map(Number);
  if (h === undefined || m === undefined || Number.isNaN(h) || Number.isNaN(m)) return undefined;
  return Math.floor(near / 1440) * 1440 + h * 60 + m;
}

/** So many hours as people say them. */
export function span(hours: number): string {
  const m = Math.round(hours * 60);
  return m < 60
    ? `${m} min`
    : m % 60 === 0
      ? `${m / 60} h`
      : `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, "0")}`;
}
