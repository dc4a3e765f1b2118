import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { ChangeEvent } from "react";
import { askTrip, writeTrip } from "../../api/askTrip";
import { type Membership, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Part, RemoveButton } from "../../ui/Form";

/** Pictures of a trip. */
export function Pictures({ me, trip }: { me: Membership; trip: string }) {
  const queries = useQueryClient();
  const photos = useQuery(askTrip.photos(me.crew_id, trip));
  const fresh = () => queries.invalidateQueries({ queryKey: askTrip.photos(me.crew_id, trip).queryKey });
  const adding = useMutation({ mutationFn: (file: File) => writeTrip.photo(me.crew_id, trip, file), onSuccess: fresh });
  const pick = (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    if (file) adding.mutate(file);
    e.target.value = "";
  };
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
      {may(me, "move") && (
        <label className="plain-button flex cursor-pointer items-center justify-self-start focus-within:outline-3 focus-within:outline-accent">
          {adding.isPending ? "Sending the picture…" : "Add a picture"}
          <input
            type="file"
            accept="image/jpeg,image/png"
            className="sr-only"
            onChange={pick}
            disabled={adding.isPending}
          />
        </label>
      )}
      {adding.error && (
        <p role="alert" className="text-loud">
          {sayError(adding.error)}
        </p>
      )}
    </Part>
  );
}
