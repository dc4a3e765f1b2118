import { useMutation, useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { type Membership, type MoveInput, Refusal, sayError } from "../../api/client";
import { moveGear } from "../../api/moves";
import { Faults } from "../../ui/States";
import { SpotPick, useSpot } from "./SpotPick";

type Props = { me: Membership; gear: { id: string; name: string; version: number }; onMoved?: () => void };

/** "I moved it": says where a piece is now; undo takes it back. */
export function MoveTo({ me, gear, onMoved }: Props) {
  const queries = useQueryClient();
  const to = useSpot(me, "place", [gear.id]);
  const move = useMutation({
    mutationFn: (body: MoveInput) => moveGear(me.crew_id, gear.id, body),
    onSettled: () => freshGear(queries),
    onSuccess: onMoved,
  });
  return (
    <form
      aria-label={`Move ${gear.name}`}
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (to.spot) move.mutate({ ...to.spot, version: gear.version });
      }}
    >
      <SpotPick to={to} label="It goes">
        <button type="submit" className="main-button self-end" disabled={!to.spot || move.isPending}>
          It is there now
        </button>
      </SpotPick>
      <Faults
        text={move.error ? sayError(move.error) : undefined}
        details={move.error instanceof Refusal ? move.error.details.slice(1) : []}
      />
      {move.error instanceof Refusal && move.error.anyway && move.variables && (
        <button
          type="button"
          className="plain-button justify-self-start"
          onClick={() => move.mutate({ ...move.variables, anyway: true })}
        >
          Note: it lies there all the same
        </button>
      )}
      {move.data && (
        <p role="status" className="flex flex-wrap items-center gap-3">
          <span>
            Now: {move.data.spot.text}. {move.data.said.join(" ")}
          </span>
          <button
            type="button"
            className="plain-button"
            disabled={move.isPending}
            onClick={() => move.data && move.mutate(move.data.back)}
          >
            Undo
          </button>
        </p>
      )}
    </form>
  );
}
