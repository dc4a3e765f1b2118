import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { writeTrip } from "../../api/askTrip";
import { type Membership, sayError, type Trip } from "../../api/client";

type Props = { me: Membership; trip: Pick<Trip, "id" | "name">; text?: string };

/** Makes a trip like another: boat, people, way, day and gear, on a day that is chosen. */
export function CopyTrip({ me, trip, text = "Copy" }: Props) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [on, setOn] = useState("");
  const [asking, setAsking] = useState(false);
  const copy = useMutation({
    mutationFn: () => writeTrip.copy(me.crew_id, trip.id, trip.name, on),
    onSuccess: (made) => {
      queries.invalidateQueries({ queryKey: ask.session().queryKey });
      freshGear(queries);
      go(`/trips/${made.id}/who`, { state: { refused: made.refused } });
    },
  });
  if (!asking)
    return (
      <button
        type="button"
        className="plain-button"
        aria-label={`${text}: ${trip.name}`}
        onClick={() => setAsking(true)}
      >
        {text}
      </button>
    );
  return (
    <form
      aria-label={`Copy ${trip.name}`}
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        copy.mutate();
      }}
    >
      <input
        type="date"
        required
        aria-label="First day of the new trip"
        className="input min-h-11 text-base"
        value={on}
        onChange={(e) => setOn(e.target.value)}
      />
      <button type="submit" className="main-button" disabled={copy.isPending}>
        Make the trip
      </button>
      {copy.error && (
        <span role="alert" className="text-loud">
          {sayError(copy.error)}
        </span>
      )}
    </form>
  );
}
