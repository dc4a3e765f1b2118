import type { Bench } from "../../api/client";
import { degrees, heelWords, type Units } from "../../domain/units";

/** In a sentence how she lies with what is listed so far; loud where the water comes in. */
export function HowSheLies({ bench, units }: { bench?: Bench; units: Units }) {
  if (!bench) return null;
  const { now } = bench.state;
  const sea = now.awash.map(
    (a) => `The sea comes in by the ${a.through} and stands ${units.small(a.depth_m)} ${units.smallUnit} deep.`,
  );
  if (!now.attitude)
    return (
      <p role="status" className="text-loud" data-testid="how-she-lies">
        As she is listed {now.why}. Look at the heights first: scuppers, notch, the hull's centre. The drawing shows her
        upright all the same.
      </p>
    );
  const { lowest, heel_deg } = now.attitude;
  const wet = now.status !== "afloat" || sea.length > 0;
  return (
    <p role="status" className={wet ? "text-loud" : "quiet"} data-testid="how-she-lies">
      {lowest.m > 0
        ? `As she is listed she floats, with ${units.small(lowest.m)} ${units.smallUnit} left at the ${lowest.name}`
        : `As she is listed water comes in at the ${lowest.name}, ${units.small(-lowest.m)} ${units.smallUnit} under`}
      {Math.abs(heel_deg) >= 0.5 ? `, heeled ${degrees(Math.abs(heel_deg))}° ${heelWords(heel_deg)}` : ""}.{" "}
      {sea.join(" ")}
    </p>
  );
}
