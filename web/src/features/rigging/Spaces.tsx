import { type UseQueryResult, useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { freshGear } from "../../api/ask";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { ErrorNote, Waiting } from "../../ui/States";
import type { Rigging } from "./RiggingPage";

type Space = Schemas["SpaceView"];

type Props = {
  me: Membership;
  rigging: Rigging;
  spaces: UseQueryResult<Space[]>;
  chosen: string | undefined;
  onChoose: (name: string | undefined) => void;
  onDone: () => void;
};

/** The largest boxes that still fit inside her, what would go there better, and one press that makes them places. */
export function Spaces({ me, rigging, spaces, chosen, onChoose, onDone }: Props) {
  const units = unitsOf(me.units);
  return (
    <div className="grid gap-3">
      <div className="flex items-start justify-between gap-2">
        <h1 className="label-type text-3xl leading-tight">Space nobody uses</h1>
        <button type="button" className="plain-button shrink-0" onClick={onDone}>
          Back
        </button>
      </div>
      <p className="quiet leading-snug">
        What no place, tank, foam, fitting, lid or person takes, to 4 cm. Frames and stringers are not known: look
        before you cut. A lid in a self-draining deck must seal.
      </p>
      {spaces.isPending && <Waiting text="Looking into every corner…" />}
      {spaces.isError && <ErrorNote text={sayError(spaces.error)} onRetry={() => spaces.refetch()} />}
      {spaces.data?.length === 0 && <p>Nothing larger than a tackle tray is left.</p>}
      {spaces.data?.map((s) => (
        <One
          key={s.name}
          me={me}
          rigging={rigging}
          s={s}
          units={units}
          chosen={chosen === s.name}
          onChoose={() => onChoose(chosen === s.name ? undefined : s.name)}
        />
      ))}
    </div>
  );
}

type OneProps = {
  me: Membership;
  rigging: Rigging;
  s: Space;
  units: Units;
  chosen: boolean;
  onChoose: () => void;
};

function One({ me, rigging, s, units, chosen, onChoose }: OneProps) {
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/boats/{boat}/places", {
        params: { path: { crew: me.crew_id, boat: rigging.id } },
        body: {
          name: s.name,
          corner_m: s.corner_m,
          size_m: s.size_m,
          opening_m: [0, 0],
          dryness: s.dryness,
          max_kg: 0,
          lid: s.lid,
        },
      }),
    onSuccess: () => freshGear(queries),
  });
  return (
    <article
      className={`border bg-base-100 p-3 ${chosen ? "border-base-content border-2" : "border-(--hair)"}`}
      data-space={s.name}
    >
      <div className="flex items-center justify-between gap-2">
        <h2 className="label-type text-xl leading-tight">{s.name}</h2>
        <button type="button" className="plain-button shrink-0" aria-pressed={chosen} onClick={onChoose}>
          {chosen ? "Show all" : "Show it alone"}
        </button>
      </div>
      <p className="leading-snug">
        <span className="figure-type">
          {s.size_m.map((m) => units.side(m)).join(" × ")} {units.sideUnit}, {units.volume(s.litres)} {units.volumeUnit}
        </span>
        {s.over && `, over ${s.over}`}
        {s.seconds !== undefined ? `; open in ${s.seconds.toFixed(0)} s from ${s.post}.` : "; no hand comes there."}
      </p>
      {s.better.length > 0 && (
        <p className="leading-snug">
          Better there than where it is:{" "}
          {s.better.map((b, i) => (
            <span key={b.gear_id}>
              {i > 0 && ", "}
              <Link className="underline" to={`/gear/${b.gear_id}`}>
                {b.name}
              </Link>{" "}
              ({b.saves_s.toFixed(0)} s a day)
            </span>
          ))}
          .
        </p>
      )}
      {may(me, "change_boat") && (
        <button
          type="button"
          className="main-button mt-2"
          disabled={make.isPending || make.isSuccess}
          onClick={() => make.mutate()}
        >
          {make.isSuccess ? "It is a place now" : "Make it a place"}
        </button>
      )}
      {make.error && (
        <p role="alert" className="text-loud">
          {sayError(make.error)}
        </p>
      )}
    </article>
  );
}
