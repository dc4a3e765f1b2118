/** How long ago a moment was, as people say it. */
export function ago(at: string): string {
  const minutes = Math.max(0, Math.round((Date.now() - new Date(at).getTime()) / 60_000));
  if (minutes < 1) return "just now";
  if (minutes < 60) return minutes === 1 ? "a minute ago" : `${minutes} minutes ago`;
  const hours = Math.round(minutes / 60);
  if (hours < 24) return hours === 1 ? "an hour ago" : `${hours} hours ago`;
  return new Date(at).toLocaleDateString(undefined, { day: "numeric", month: "long" });
}

/** A day such as 2026-11-29 as people write it; the year only where it is another. */
export function day(iso: string): string {
  const d = new Date(`${iso}T12:00:00`);
  const year = d.getFullYear() === new Date().getFullYear() ? undefined : "numeric";
  return d.toLocaleDateString("en-GB", { day: "numeric", month: "short", year });
}
