import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { askTrip, writeTrip } from "../../api/askTrip";
import { api, type Membership, type Schemas } from "../../api/client";
import { moveGear } from "../../api/moves";

export type TripPage = Schemas["TripPage"];
export type Line = Schemas["VerdictLine"];
export type StageView = Schemas["StageView"];
export type Going = Schemas["Going"];

/** A trip's own page and all that is written from it; what is asked anew after each write. */
export function useTrip(me: Membership, trip: string) {
  const queries = useQueryClient();
  const crew = me.crew_id;
  const page = useQuery(askTrip.page(crew, trip));
  const show = (next: TripPage) => {
    queries.setQueryData(askTrip.page(crew, trip).queryKey, next);
    freshGear(queries);
  };
  const fresh = () => freshGear(queries);
  return {
    page,
    fresh,
    settle: useMutation({
      mutationFn: ({ stage, settled }: { stage: StageView["stage"]; settled: boolean }) =>
        writeTrip.settle(crew, trip, stage, settled),
      onSuccess: show,
    }),
    accept: useMutation({
      mutationFn: ({ line, accepted }: { line: Line; accepted: boolean }) =>
        writeTrip.accept(crew, trip, { key: line.key, said: line.sentence }, accepted),
      onSuccess: show,
    }),
    takeKit: useMutation({ mutationFn: (kit: string) => writeTrip.takeKit(crew, trip, kit), onSuccess: fresh }),
    dropKit: useMutation({ mutationFn: (kit: string) => writeTrip.dropKit(crew, trip, kit), onSuccess: fresh }),
    stow: useMutation({
      mutationFn: (school: Parameters<typeof writeTrip.stow>[2]) => writeTrip.stow(crew, trip, school),
      onSuccess: fresh,
    }),
    /** Ticks a piece off: it stands on the quay now. */
    fetch: useMutation({
      mutationFn: (g: Going) => moveGear(crew, g.gear_id, { gear_id: g.gear_id, version: g.version }),
      onSuccess: fresh,
    }),
    leave: useMutation({
      mutationFn: (g: Going) =>
        api.delete("/api/crews/{crew}/trips/{trip}/gear/{gear}", { params: { path: { crew, trip, gear: g.gear_id } } }),
      onSuccess: fresh,
    }),
    savePeople: (people: Schemas["TripPerson"][], version: number) => writeTrip.people(crew, trip, people, version),
  };
}
