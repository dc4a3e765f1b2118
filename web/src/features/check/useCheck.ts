import { useMutation, useQueryClient } from "@tanstack/react-query";
import { askBoat } from "../../api/askBoat";
import { api, type Membership, type Schemas } from "../../api/client";

type Check = { float: Schemas["FloatCheckInput"] } | { incline: Schemas["InclineInput"] };

/** A check that is worked out as often as one likes, and kept once. Body throws what can't be sent. */
export function useCheck(me: Membership, boat: string, body: () => Check, onKept?: () => void) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, boat };
  const trying = useMutation({
    mutationFn: async () => api.post("/api/crews/{crew}/boats/{boat}/checks/try", { params: { path }, body: body() }),
  });
  const keeping = useMutation({
    mutationFn: async () => {
      const kept = body();
      return api.post("/api/crews/{crew}/boats/{boat}/checks", {
        params: { path },
        body: kept,
      });
    },
    onSuccess: () => {
      trying.reset();
      onKept?.();
      return queries.invalidateQueries({ queryKey: askBoat.checks(me.crew_id, boat).queryKey });
    },
  });
  return { trying, keeping, error: trying.error ?? keeping.error };
}
