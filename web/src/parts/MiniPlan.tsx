import { useQuery } from "@tanstack/react-query";
import { ask } from "../api/ask";
import type { Schemas } from "../api/client";
import { BoatFromAbove, fromAbove } from "../drawing/BoatFromAbove";

type Props = { crew: string; boat: string; place?: string; box?: Schemas["Laid"][] };

/** The boat from above, bow to the right, with one place and what lies there made plain. */
export function MiniPlan({ crew, boat, place, box = [] }: Props) {
  const bench = useQuery(ask.bench(crew, boat));
  if (!bench.data) return <div className="h-28" aria-hidden="true" />;
  const { places, name } = bench.data;
  const { rect } = fromAbove(bench.data);
  const here = places.find((q) => q.id === place);
  return (
    <BoatFromAbove bench={bench.data} label={`${name} from above${here ? `, ${here.name} marked` : ""}`}>
      {places.map((q) => (
        <rect key={q.id} {...rect(q)} fill="none" stroke="var(--hair)" strokeWidth="1.6" />
      ))}
      {here && <rect {...rect(here)} fill="var(--water)" stroke="currentColor" strokeWidth="4" />}
      {box.map((b) => (
        <rect
          key={b.corner_m.join()}
          {...rect(b)}
          fill="var(--color-accent)"
          fillOpacity="0.35"
          stroke="var(--color-accent)"
          strokeWidth="4"
        />
      ))}
    </BoatFromAbove>
  );
}
