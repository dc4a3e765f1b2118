import { useQuery, useQueryClient } from "@tanstack/react-query";
import { askTrip, writeTrip } from "../../api/askTrip";
import type { Membership } from "../../api/client";
import { may } from "../../domain/may";
import { AddPicture } from "../../parts/AddPicture";
import { Part, RemoveButton } from "../../ui/Form";

/** Pictures of a trip. */
export function Pictures({ me, trip }: { me: Membership; trip: string }) {
  const queries = useQueryClient();
  const photos = useQuery(askTrip.photos(me.crew_id, trip));
  const fresh = () => queries.invalidateQueries({ queryKey: askTrip.photos(me.crew_id, trip).queryKey });
  const list = photos.data ?? [];
  if (list.length === 0 && !may(me, "move")) return null;
  return (
    <Part title="Pictures">
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        {list.map((f) => (
          <figure key={f.id}>
            <img
              src={`/api/crews/${me.crew_id}/trips/${trip}/photos/${f.id}`}
              alt={`By ${f.by}, ${new Date(f.at).toLocaleDateString()}`}
              width={f.width}
              height={f.height}
              loading="lazy"
              className="h-auto w-full border border-(--hair)"
            />
            {may(me, "change_gear") && (
              <RemoveButton
                text="Remove"
                name={`picture by ${f.by}`}
                remove={() => writeTrip.noPhoto(me.crew_id, trip, f.id)}
                onRemoved={fresh}
              />
            )}
          </figure>
        ))}
      </div>
      {may(me, "move") && <AddPicture send={(file) => writeTrip.photo(me.crew_id, trip, file)} onSent={fresh} />}
    </Part>
  );
}
