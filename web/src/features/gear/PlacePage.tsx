import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask } from "../../api/ask";
import { askGear, type GearFilter } from "../../api/askGear";
import { type Membership, sayError } from "../../api/client";
import { MiniPlan } from "../../parts/MiniPlan";
import { Page } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";
import { Contents } from "./Contents";

/** A place aboard or ashore, as its label opens it on a phone. */
export default function PlacePage({ me }: { me: Membership }) {
  const { boat = "", place = "", shed = "" } = useParams();
  const filter: GearFilter = shed ? { shed } : { boat, place };
  const list = useInfiniteQuery(askGear.gearList(me.crew_id, filter, 200));
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const sheds = useQuery(askGear.shed(me.crew_id));
  const rows = (list.data?.pages.flatMap((p) => p.rows) ?? []).filter((g) => !g.spot.inside_id);
  const here = sheds.data?.find((s) => s.id === shed);
  const name = shed
    ? here && `${here.site}, ${here.name}`
    : bench.data && `${bench.data.name}, ${bench.data.places.find((p) => p.id === place)?.name ?? "?"}`;
  useTitle(name || undefined);
  if (list.isPending || !name) return <Waiting text="Loading what lies here…" />;
  if (list.isError) return <ErrorNote text={sayError(list.error)} onRetry={() => list.refetch()} />;
  return (
    <Page title={name}>
      {boat && (
        <div className="max-w-md">
          <MiniPlan crew={me.crew_id} boat={boat} place={place} />
        </div>
      )}
      <Contents me={me} rows={rows} />
      {list.hasNextPage && (
        <button type="button" className="plain-button" onClick={() => list.fetchNextPage()}>
          Show more
        </button>
      )}
      <div className="flex flex-wrap gap-2">
        <Link
          className="plain-button flex items-center"
          to={`/labels?${shed ? `shed=${shed}` : `place=${place}&boat=${boat}`}`}
        >
          Print its label
        </Link>
        {boat && (
          <Link className="plain-button flex items-center" to={`/boats/${boat}`}>
            On the bench
          </Link>
        )}
      </div>
    </Page>
  );
}
