import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { type Membership, type MoveInput, Refusal, sayError } from "../../api/client";
import { moveGear } from "../../api/moves";
import { Choice } from "../../ui/Form";
import { Faults } from "../../ui/States";

/** The sorts of spot, and the field of the command that names one. */
const SPOT = { place: "place_id", shed: "shed_id", box: "box_id", person: "holder_id" } as const;

type Props = { me: Membership; gear: { id: string; name: string; version: number }; onMoved?: () => void };

const SORTS = [
  ["place", "aboard"],
  ["shed", "ashore"],
  ["box", "into a box"],
  ["person", "to a person"],
  ["quay", "on the quay"],
] as const;

/** "I moved it": says where a piece is now; undo takes it back. */
export function MoveTo({ me, gear, onMoved }: Props) {
  const queries = useQueryClient();
  const [sort, setSort] = useState<keyof typeof SPOT | "quay">("place");
  const [boat, setBoat] = useState(me.boats[0]?.id ?? "");
  const [id, setId] = useState("");
  const shed = useQuery(askGear.shed(me.crew_id));
  const members = useQuery(ask.members(me.crew_id));
  const bench = useQuery(ask.bench(me.crew_id, sort === "place" ? boat : ""));
  const boxes = useInfiniteQuery(askGear.gearList(me.crew_id, { only: "containers" }, 200));
  const move = useMutation({
    mutationFn: (body: MoveInput) => moveGear(me.crew_id, gear.id, body),
    onSettled: () => freshGear(queries),
    onSuccess: onMoved,
  });
  const choices: (readonly [string, string])[] = {
    place: (bench.data?.places ?? []).map((p) => [p.id, p.name] as const),
    shed: (shed.data ?? []).map((s) => [s.id, `${s.site}, ${s.name}`] as const),
    box: (boxes.data?.pages.flatMap((p) => p.rows) ?? [])
      .filter((b) => b.id !== gear.id && b.count === 1)
      .map((b) => [b.id, `${b.name}, ${b.spot.text}`] as const),
    person: (members.data ?? []).map((m) => [m.id, m.name] as const),
    quay: [],
  }[sort];
  const chosen = choices.some(([v]) => v === id) ? id : (choices[0]?.[0] ?? "");
  const spot = sort === "quay" ? {} : chosen ? { [SPOT[sort]]: chosen } : undefined;
  return (
    <form
      aria-label={`Move ${gear.name}`}
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (spot) move.mutate({ ...spot, version: gear.version });
      }}
    >
      <div className="grid gap-2 sm:grid-cols-[9rem_9rem_1fr_auto]">
        <Choice label="It goes" value={sort} options={SORTS} onChange={(v) => setSort(v)} />
        {sort === "place" && (
          <Choice label="Boat" value={boat} options={me.boats.map((b) => [b.id, b.name] as const)} onChange={setBoat} />
        )}
        {sort !== "quay" && (
          <div className={sort === "place" ? "" : "sm:col-span-2"}>
            {choices.length > 0 ? (
              <Choice label="Where" value={chosen} options={choices} onChange={setId} />
            ) : (
              <p className="quiet pt-6">There is no such place yet.</p>
            )}
          </div>
        )}
        <button type="submit" className="main-button self-end" disabled={!spot || move.isPending}>
          It is there now
        </button>
      </div>
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
