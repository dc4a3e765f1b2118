import { useQuery, useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { askTrip, writeTrip } from "../../api/askTrip";
import type { Membership, Schemas } from "../../api/client";
import { moveGear } from "../../api/moves";
import { useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";
import type { Plan } from "./moments";

type View = Schemas["DayView"];

/** A day that is being planned: what is typed, what becomes of it, what would help, and how it is kept. */
export function useDay(me: Membership, view: View) {
  const queries = useQueryClient();
  const crew = me.crew_id;
  const trip = view.trip_id;
  const scope = `${crew}.day.${trip}`;
  const [draft, setDraft] = useDraft<{ plan: Plan }>(`${scope}.plan`, { plan: zoned(view) });
  const plan = draft.plan;
  const asked = useSettled(JSON.stringify(plan), 150);
  const tried = useQuery(askTrip.dayTried(crew, trip, asked));
  const shown = tried.data ?? view;
  const rested = useSettled(asked, 700);
  const remedies = useQuery(
    askTrip.remedies(crew, trip, rested, shown.answer?.ready === "not_ready" && rested === asked),
  );
  const fuel = useQuery(askTrip.fuel(crew, trip));
  const done = () => freshGear(queries);
  return {
    scope,
    plan,
    setPlan: (next: Plan) => setDraft({ plan: next }),
    shown,
    wrong: tried.error,
    remedies: remedies.data,
    trying: remedies.isFetching,
    legs: (fuel.data?.plan.legs ?? []).map((l, i) => l.name || `leg ${i + 1}`),
    keep: () => writeTrip.day(crew, trip, plan, view.version),
    done,
    /** Makes a remedy: in the draft where it is one of the plan, else in the crew's own list. */
    act: async (r: Schemas["Remedy"]) => {
      if (r.plan) setDraft({ plan: r.plan });
      else if (r.ashore) await writeTrip.ashore(crew, trip, [...view.ashore, r.ashore], view.version);
      else if (r.fuel) await writeTrip.fuel(crew, trip, r.fuel, view.version);
      else if (r.move?.gear_id) await moveGear(crew, r.move.gear_id, r.move);
      if (!r.plan) done();
    },
  };
}

/** A day that nobody wrote is in the time of where one is. */
function zoned(view: View): Plan {
  if (view.saved) return view.plan;
  return { ...view.plan, zone_min: -new Date(`${view.starts_on}T12:00:00`).getTimezoneOffset() };
}
