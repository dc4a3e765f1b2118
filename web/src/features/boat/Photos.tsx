import { useQuery, useQueryClient } from "@tanstack/react-query";
import { askBoat } from "../../api/askBoat";
import { api, type Membership } from "../../api/client";
import { AddPicture } from "../../parts/AddPicture";
import { RemoveButton } from "../../ui/Form";

type Props = { me: Membership; boat: string; place?: string };

/** Pictures of a boat, or of one of her places. */
export function Photos({ me, boat, place }: Props) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, boat };
  const photos = useQuery(askBoat.photos(me.crew_id, boat));
  const fresh = () => queries.invalidateQueries({ queryKey: askBoat.photos(me.crew_id, boat).queryKey });
  const send = (file: File) =>
    api.post("/api/crews/{crew}/boats/{boat}/photos", {
      params: { path, query: { place } },
      body: file as unknown as string,
      bodySerializer: (b) => b as unknown as BodyInit,
      headers: { "Content-Type": "application/octet-stream" },
    });
  const shown = (photos.data ?? []).filter((f) => f.place_id === place);
  return (
    <section aria-label="Pictures" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">Pictures</h2>
      <div className="grid grid-cols-2 gap-2">
        {shown.map((f) => (
          <figure key={f.id}>
            <img
              src={`/api/crews/${me.crew_id}/boats/${boat}/photos/${f.id}`}
              alt={`By ${f.by}, ${new Date(f.at).toLocaleDateString()}`}
              width={f.width}
              height={f.height}
              loading="lazy"
              className="h-auto w-full border border-(--hair)"
            />
            <figcaption className="flex items-center justify-between gap-2 text-sm">
              {f.by}
              <RemoveButton
                text="Remove"
                name={`picture by ${f.by}`}
                remove={() =>
                  api.delete("/api/crews/{crew}/boats/{boat}/photos/{photo}", {
                    params: { path: { ...path, photo: f.id } },
                  })
                }
                onRemoved={fresh}
              />
            </figcaption>
          </figure>
        ))}
      </div>
      <AddPicture send={send} onSent={fresh} />
    </section>
  );
}
