import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { ask } from "../../api/ask";
import { askGear } from "../../api/askGear";
import type { Membership } from "../../api/client";
import { Choice } from "../../ui/Form";

/** The sorts of spot, and the field of the command that names one. */
const SPOT = { place: "place_id", shed: "shed_id", box: "box_id", person: "holder_id" } as const;

const SORTS = [
  ["place", "aboard"],
  ["shed", "ashore"],
  ["box", "into a box"],
  ["person", "to a person"],
  ["quay", "on the quay"],
] as const;

type Sort = keyof typeof SPOT | "quay";

/** Where a move goes, as the fields of its command. */
export type SpotChoice = { place_id?: string; shed_id?: string; box_id?: string; holder_id?: string };

/** Chooses where gear goes; the spot is undefined while there is no such place. */
export function useSpot(me: Membership, first: Sort, except: string[]) {
  const [sort, setSort] = useState<Sort>(first);
  const [boat, setBoat] = useState(me.boats[0]?.id ?? "");
  const [id, setId] = useState("");
  const shed = useQuery(askGear.shed(me.crew_id));
  const members = useQuery(ask.members(me.crew_id));
  const bench = useQuery(ask.bench(me.crew_id, sort === "place" ? boat : ""));
  const boxes = useInfiniteQuery(askGear.gearList(me.crew_id, { only: "containers" }, 200));
  const choices: (readonly [string, string])[] = {
    place: (bench.data?.places ?? []).map((p) => [p.id, p.name] as const),
    shed: (shed.data ?? []).map((s) => [s.id, `${s.site}, ${s.name}`] as const),
    box: (boxes.data?.pages.flatMap((p) => p.rows) ?? [])
      .filter((b) => !except.includes(b.id) && b.count === 1)
      .map((b) => [b.id, `${b.name}, ${b.spot.text}`] as const),
    person: (members.data ?? []).map((m) => [m.id, m.name] as const),
    quay: [],
  }[sort];
  const chosen = choices.some(([v]) => v === id) ? id : (choices[0]?.[0] ?? "");
  const spot: SpotChoice | undefined = sort === "quay" ? {} : chosen ? { [SPOT[sort]]: chosen } : undefined;
  return { me, sort, setSort, boat, setBoat, choices, chosen, setId, spot };
}

type Props = { to: ReturnType<typeof useSpot>; label: string; children: ReactNode };

/** The choice of a spot in a row, and the button beside it. */
export function SpotPick({ to, label, children }: Props) {
  return (
    <div className="grid gap-2 sm:grid-cols-[9rem_9rem_1fr_auto]">
      <Choice label={label} value={to.sort} options={SORTS} onChange={to.setSort} />
      {to.sort === "place" && (
        <Choice
          label="Boat"
          value={to.boat}
          options={to.me.boats.map((b) => [b.id, b.name] as const)}
          onChange={to.setBoat}
        />
      )}
      {to.sort !== "quay" && (
        <div className={to.sort === "place" ? "" : "sm:col-span-2"}>
          {to.choices.length > 0 ? (
            <Choice label="Where" value={to.chosen} options={to.choices} onChange={to.setId} />
          ) : (
            <p className="quiet pt-6">There is no such place yet.</p>
          )}
        </div>
      )}
      {children}
    </div>
  );
}
