import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Membership, type Schemas, write } from "../../api/client";

type Check = { float: Schemas["FloatCheckInput"] } | { incline: Schemas["InclineInput"] };

export const checksKey = (boat: string) => ["checks", boat];

/** A check that is worked out as often as one likes, and kept once. Body throws what can't be sent. */
export function useCheck(me: Membership, boat: string, body: () => Check, onKept?: () => void) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, boat };
  const trying = useMutation({
    mutationFn: async () =>
      answered(api.POST("/api/crews/{crew}/boats/{boat}/checks/try", { params: { path }, body: body() })) as Promise<
        Schemas["SurveyResult"]
      >,
  });
  const keeping = useMutation({
    mutationFn: async () => {
      const kept = body();
      return write((key) =>
        api.POST("/api/crews/{crew}/boats/{boat}/checks", {
          params: { path, header: { "Idempotency-Key": key } },
          body: kept,
        }),
      );
    },
    onSuccess: () => {
      trying.reset();
      onKept?.();
      return queries.invalidateQueries({ queryKey: checksKey(boat) });
    },
  });
  return { trying, keeping, error: trying.error ?? keeping.error };
}
