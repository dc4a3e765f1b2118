import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { freshGear } from "../../api/ask";
import { api, type GearRow, type Membership, Refusal, sayError } from "../../api/client";
import { Loose } from "../../ui/Form";
import { Faults } from "../../ui/States";
import { SpotPick, useSpot } from "./SpotPick";

type Props = { me: Membership; picked: GearRow[]; onMoved: (said: string[]) => void };

/** Moves all that is chosen at once; what lies aboard one boat can be kept under a name, to come back. */
export function MoveMany({ me, picked, onMoved }: Props) {
  const queries = useQueryClient();
  const to = useSpot(
    me,
    "shed",
    picked.map((g) => g.id),
  );
  const [name, setName] = useState("");
  const [kept, setKept] = useState(""); // the name that was kept, where moving failed after it
  const aboard = picked.filter((g) => g.spot.boat_id);
  const boat = aboard[0]?.spot.boat_id;
  const keepable = boat !== undefined && aboard.every((g) => g.spot.boat_id === boat);
  const boatName = me.boats.find((b) => b.id === boat)?.name ?? "her";
  const move = useMutation({
    mutationFn: async () => {
      if (keepable && boat && name.trim() && name.trim() !== kept) {
        await api.post("/api/crews/{crew}/boats/{boat}/arrangements", {
          params: { path: { crew: me.crew_id, boat } },
          body: { name: name.trim(), gear: aboard.map((g) => g.id) },
        });
        setKept(name.trim());
      }
      return api.post("/api/crews/{crew}/gear-moves", {
        params: { path: { crew: me.crew_id } },
        body: { ...to.spot, gear: picked.map((g) => ({ gear_id: g.id, version: g.spot.version })) },
      });
    },
    onSettled: () => freshGear(queries),
    onSuccess: (done) => onMoved(done.said),
  });
  return (
    <form
      aria-label="Move those chosen"
      className="grid w-full gap-2 border-(--hair) border-t pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (to.spot) move.mutate();
      }}
    >
      {keepable && (
        <div className="flex flex-wrap items-end gap-x-4">
          <div className="min-w-64 flex-1 sm:max-w-md">
            <Loose
              label={`To come back to: keep where ${aboard.length === picked.length ? "they lie" : `${aboard.length} of them lie`} in ${boatName} as`}
              value={name}
              onChange={setName}
            />
          </div>
          <Link className="inline-flex min-h-11 items-center underline" to={`/boats/${boat}/arrangements`}>
            {boatName}'s arrangements
          </Link>
        </div>
      )}
      <SpotPick to={to} label="They go">
        <button type="submit" className="main-button self-end" disabled={!to.spot || move.isPending}>
          They are there now
        </button>
      </SpotPick>
      <Faults
        text={move.error ? sayError(move.error) : undefined}
        details={move.error instanceof Refusal ? move.error.details : []}
      />
    </form>
  );
}
