import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { api, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { Faults } from "../../ui/States";
import type { FuelUnits } from "./fuelUnits";

type Track = Schemas["Track"];
type Props = { me: Membership; u: FuelUnits; onOut: (t: Track) => void; onThereAndBack: (t: Track) => void };

/** Brings the way from a GPX file: each of its tracks and routes can be a leg. */
export function BringTrack({ me, u, onOut, onThereAndBack }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const read = useMutation({
    mutationFn: async (file: File) =>
      api.post("/api/crews/{crew}/tracks", {
        params: { path: { crew: me.crew_id } },
        body: (await file.text()) as never,
        bodySerializer: (text: unknown) => text as string,
        headers: { "Content-Type": "application/gpx+xml" },
      }),
  });
  return (
    <div className="relative grid gap-2">
      <input
        ref={input}
        type="file"
        accept=".gpx,application/gpx+xml"
        className="sr-only"
        aria-label="A GPX file"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) read.mutate(file);
          e.target.value = ""; // the same file may be brought again
        }}
      />
      <button
        type="button"
        className="plain-button justify-self-start"
        disabled={read.isPending}
        onClick={() => input.current?.click()}
      >
        {read.isPending ? "Reading…" : "Bring a GPX file"}
      </button>
      <Faults
        text={read.error ? sayError(read.error) : undefined}
        details={read.error instanceof Refusal ? read.error.details : []}
      />
      {read.data?.map((t, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a track is its place in the file
        <div key={i} className="grid gap-1 border border-(--hair) p-2">
          <span>
            <b>{t.name || `Track ${i + 1}`}</b>, <span className="figure-type">{u.far(t.distance_m)}</span>
            {t.said.length > 0 && <span className="quiet text-sm"> {t.said.join(" ")}</span>}
          </span>
          <span className="flex flex-wrap gap-1">
            <button type="button" className="plain-button" onClick={() => onOut(t)}>
              Add as a leg
            </button>
            <button type="button" className="plain-button" onClick={() => onThereAndBack(t)}>
              Out and home by it
            </button>
          </span>
        </div>
      ))}
    </div>
  );
}
