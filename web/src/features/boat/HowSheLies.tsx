import type { Bench } from "../../api/client";
import { degrees, heelWords, type Units } from "../../domain/units";
import { OverPicture } from "../../drawing/OverPicture";

/** In a sentence how she lies with what is listed so far; loud where the water comes in. */
export function HowSheLies({ bench, units }: { bench?: Bench; units: Units }) {
  if (!bench) return null;
  const { now } = bench.state;
  const sea = now.awash.map(
    (a) => `The sea comes in by the ${a.through} and stands ${units.small(a.depth_m)} ${units.smallUnit} deep.`,
  );
  if (!now.attitude)
    return (
      <div data-testid="how-she-lies" className="grid gap-2">
        <p role="status" className="text-loud">
          As she is listed {now.why}. Look at the heights first: scuppers, notch, the hull's centre.
          {!now.over && " The drawing shows her upright all the same."}
        </p>
        {now.over && (
          <OverPicture lines={bench.lines} over={now.over} label={`${bench.name} as she is listed: ${now.why}`} />
        )}
      </div>
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
