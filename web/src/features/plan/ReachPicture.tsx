import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { askBoat } from "../../api/askBoat";
import { type Bench, type Schemas, sayError } from "../../api/client";
import { BoatFromAbove, fromAbove } from "../../drawing/BoatFromAbove";
import { ErrorNote } from "../../ui/States";

type Reach = Schemas["ReachView"];

/** Seconds up to which something is near, at hand, or a walk; and how it is drawn. */
const BANDS = [
  { most: 3, fill: 0.95, says: "under 3 s" },
  { most: 6, fill: 0.5, says: "under 6 s" },
  { most: 12, fill: 0.18, says: "under 12 s" },
];

const bandOf = (s: number | null | undefined) => BANDS.find((b) => s != null && s <= b.most);

/** How quickly a hand comes to everywhere aboard, from one post. */
export function ReachPicture({ crew, bench }: { crew: string; bench: Bench }) {
  const [post, setPost] = useState(bench.posts.find((p) => p.name === "helm")?.id ?? bench.posts[0]?.id ?? "");
  const reach = useQuery(askBoat.reach(crew, bench, post));
  if (!post)
    return <p>She has no posts yet: say where people work aboard, and the ways to everything are worked out.</p>;
  return (
    <section aria-label="In reach" className="grid gap-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="label-type text-2xl">In reach from</h2>
        <select
          className="plain-button"
          aria-label="Post to reach from"
          value={post}
          onChange={(e) => setPost(e.target.value)}
        >
          {bench.posts.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </div>
      {reach.isError && <ErrorNote text={sayError(reach.error)} onRetry={() => reach.refetch()} />}
      {reach.data ? (
        <Bands bench={bench} reach={reach.data} post={post} />
      ) : (
        <div className="h-60" aria-hidden="true" />
      )}
    </section>
  );
}

function Bands({ bench, reach, post }: { bench: Bench; reach: Reach; post: string }) {
  const { rect, at } = fromAbove(bench);
  const here = bench.posts.find((p) => p.id === post);
  const places = new Map(bench.places.map((p) => [p.id, p]));
  const top = (id: string) => (places.get(id)?.corner_m[2] ?? 0) + (places.get(id)?.size_m[2] ?? 0);
  const far = reach.places.filter((p) => p.seconds == null);
  return (
    <>
      <BoatFromAbove bench={bench} label={`Seconds from ${reach.name} to every place`}>
        {reach.walk_s.map((s, i) => {
          const band = bandOf(s == null ? undefined : s + 1);
          const x = (i % reach.cols) * reach.cell_m;
          const y = reach.y0_m + (Math.floor(i / reach.cols) - 0.5) * reach.cell_m;
          return (
            band && (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place in the plan
                key={i}
                {...rect({ corner_m: [x, y], size_m: [reach.cell_m, reach.cell_m] })}
                fill="var(--water)"
                fillOpacity={band.fill * 0.55}
              />
            )
          );
        })}
        {[...reach.places]
          .sort((a, b) => top(a.place_id) - top(b.place_id))
          .map((p) => {
            const place = places.get(p.place_id);
            if (!place) return null;
            const box = rect(place);
            return (
              <g key={p.place_id}>
                <rect {...box} fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.6" />
                <rect {...box} fill="var(--water)" fillOpacity={bandOf(p.seconds)?.fill ?? 0} />
                <text
                  x={box.x + 3}
                  y={box.y + Math.min(18, box.height - 3)}
                  fontSize={Math.min(17, box.height - 1)}
                  className="figure-type"
                  fill="currentColor"
                >
                  {p.seconds == null ? "–" : p.seconds.toFixed(0)}
                </text>
              </g>
            );
          })}
        {here && <Feet at={at(here.at_m[0] ?? 0, here.at_m[1] ?? 0)} />}
      </BoatFromAbove>
      <p className="flex flex-wrap gap-x-5 gap-y-1">
        {BANDS.map((b) => (
          <span key={b.most} className="flex items-center gap-2">
            <svg width="26" height="16" aria-hidden="true">
              <rect width="26" height="16" fill="var(--water)" fillOpacity={b.fill} stroke="currentColor" />
            </svg>
            {b.says}
          </span>
        ))}
      </p>
      {far.length > 0 && <p className="text-loud">Out of reach from there: {far.map((p) => p.name).join(", ")}.</p>}
      <details>
        <summary className="min-h-11 cursor-pointer underline">Why, place by place</summary>
        <ul>
          {reach.places.map((p) => (
            <li key={p.place_id} className="hairline-b py-1 leading-tight">
              <b>{p.name}</b>, {p.seconds == null ? "out of reach" : `in hand in ${p.seconds.toFixed(1)} s`}
              <span className="quiet">
                {p.parts.length > 0 &&
                  `: there and back ${p.parts.map((q) => `${q.what} ${q.seconds.toFixed(1)}`).join(", ")} s`}
              </span>
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

function Feet({ at: [x, y] }: { at: [number, number] }) {
  return (
    <g>
      <circle cx={x} cy={y} r="11" fill="var(--color-base-content)" />
      <circle cx={x} cy={y} r="4" fill="var(--color-base-100)" />
    </g>
  );
}
