import { type KeyboardEvent, type PointerEvent, useEffect, useState } from "react";
import type { Bench, Gear, Place, Post } from "../api/client";
import { howMany } from "../domain/howMany";
import { painted } from "../ui/painted";
import { hatchOf } from "./Hatches";
import { Labels } from "./Labels";
import type { Box, Placed, Sheet, Wanted } from "./labels";
import { type Pixel, type Projection, path, planBox, rodOutline } from "./projection";

/** What a plan lets a person do; the bench says what each means. */
export type PlanActions = {
  gearInHand: boolean;
  personInHand: boolean;
  inHand?: string;
  target?: string;
  refused: boolean;
  chosen?: string;
  onPlace: (place: Place) => void;
  onPost: (post: Post) => void;
  onPerson: (member: string, post: Post) => void;
  onGearDown: (event: PointerEvent, gear: Gear) => void;
  onMemberDown: (event: PointerEvent, member: string) => void;
  onAim: (kind: "place" | "post", id: string) => void;
  onLeave: () => void;
};

type Props = { bench: Bench; p: Projection; actions: PlanActions };

/** The plan: her outline, her places with what lies in them, her people, and names that never collide. */
export function Plan({ bench, p, actions, level }: Props & { level?: string }) {
  const { lines } = bench;
  const port = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, y));
  const starboard = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, -y)).reverse();
  const last = lines.plan_sheer_xy_m.at(-1)?.[0] ?? 0;
  const centre = [p.plan(-0.15, 0), p.plan(last + 0.12, 0)];
  const places = fromBelow(bench.places);
  const shown = places.filter((q) => !level || q.level === level);
  return (
    <g>
      <path
        d={path([...port, ...starboard], true)}
        fill="var(--color-base-100)"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinejoin="round"
      />
      {lines.plan_chines_xy_m.flatMap((chine, i) =>
        [1, -1].map((side) => (
          <path
            // biome-ignore lint/suspicious/noArrayIndexKey: chines have no other name
            key={`${i}${side}`}
            d={path(chine.map(([x, y]) => p.plan(x, side * y)))}
            fill="none"
            stroke="var(--hair)"
            strokeWidth="0.8"
            strokeDasharray="6 4"
          />
        )),
      )}
      <path d={path(centre)} stroke="var(--hair)" strokeWidth="0.8" strokeDasharray="14 4 3 4" />
      {places
        .filter((q) => !shown.includes(q))
        .map((q) => (
          <rect
            key={q.id}
            {...planBox(p, q.corner_m, q.size_m)}
            fill="none"
            stroke="var(--hair)"
            strokeDasharray="2 3"
          />
        ))}
      {shown.map((q, i) => (
        <PlaceInPlan
          key={q.id}
          bench={bench}
          place={q}
          p={p}
          actions={actions}
          open={shown.slice(0, i).some((under) => standsOver(q, under))}
        />
      ))}
      {bench.posts.map((post) => (
        <PostInPlan key={post.id} bench={bench} post={post} p={p} actions={actions} />
      ))}
      <Names bench={bench} shown={shown} p={p} hull={[...port, ...starboard]} />
    </g>
  );
}

/** The highest drawn last, as one sees it from above. */
function fromBelow(places: Place[]): Place[] {
  const top = (q: Place) => q.corner_m[2] + q.size_m[2];
  return [...places].sort((a, b) => top(a) - top(b));
}

/** Whether a place stands over another, so that it would hide it. */
function standsOver(high: Place, low: Place): boolean {
  const over = (axis: 0 | 1) =>
    high.corner_m[axis] < low.corner_m[axis] + low.size_m[axis] &&
    low.corner_m[axis] < high.corner_m[axis] + high.size_m[axis];
  return over(0) && over(1);
}

/** What lies in a place, from below, as it is drawn. */
function laidIn(bench: Bench, place: Place, p: Projection) {
  return bench.state.stowage
    .filter((s) => s.place_id === place.id && !s.inside_id)
    .flatMap((s) =>
      s.laid.map((l, i) => ({
        key: `${s.gear_id} ${i}`,
        gear: bench.gear.find((g) => g.id === s.gear_id),
        box: planBox(p, l.corner_m, l.size_m),
        outline: l.rod && rodOutline(p.plan, l, l.rod),
        top: l.corner_m[2] + l.size_m[2],
      })),
    )
    .sort((a, b) => a.top - b.top);
}

function press(act: () => void) {
  return (e: KeyboardEvent) => {
    if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      act();
    }
  };
}

type PlaceProps = Props & { place: Place; open: boolean };

/** A place and what lies in it; one that stands over another is drawn open, so that it hides nothing. */
function PlaceInPlan({ bench, place, p, actions, open }: PlaceProps) {
  const box = planBox(p, place.corner_m, place.size_m);
  const count = bench.state.stowage.filter((s) => s.place_id === place.id && !s.inside_id).length;
  const aimed = actions.target === place.id;
  const out = place.leaves_hull_by_m > 0.001;
  const loud = (aimed && actions.refused) || out;
  const does = actions.gearInHand
    ? `Put it in ${place.name}`
    : `${place.name}, ${count === 0 ? "empty" : howMany(count, "piece")}`;
  const warning = out
    ? `; stands out of the hull by ${Math.round(place.leaves_hull_by_m * 100)} cm ${place.leaves_hull}`
    : "";
  const fill = open ? "transparent" : "var(--color-base-100)";
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={does + warning}
      data-target={`place:${place.id}`}
      data-place={place.name}
      onClick={() => actions.onPlace(place)}
      onKeyDown={press(() => actions.onPlace(place))}
      onFocus={() => actions.onAim("place", place.id)}
      onBlur={actions.onLeave}
      onPointerEnter={() => actions.onAim("place", place.id)}
      onPointerLeave={actions.onLeave}
      className="cursor-pointer outline-none [&:focus-visible>rect:first-child]:stroke-accent [&:focus-visible>rect:first-child]:stroke-[3]"
    >
      <rect
        {...box}
        fill={aimed && actions.gearInHand ? "var(--water)" : fill}
        stroke={loud ? "var(--color-accent)" : "currentColor"}
        strokeWidth={loud || aimed || actions.chosen === place.id ? 2.4 : 0.8}
        strokeDasharray={actions.gearInHand && !aimed ? "3 3" : undefined}
      />
      {laidIn(bench, place, p).map((l) => (
        <GearInPlan
          key={l.key}
          bench={bench}
          gear={l.gear}
          box={l.box}
          outline={l.outline}
          fill={fill}
          actions={actions}
        />
      ))}
    </g>
  );
}

type GearProps = { bench: Bench; gear?: Gear; box: Box; outline?: string; fill: string; actions: PlanActions };

function GearInPlan({ bench, gear, box, outline, fill, actions }: GearProps) {
  if (!gear) return null;
  const hatch = hatchOf(bench.members, gear.owner_id);
  return (
    <g
      data-gear={gear.name}
      onPointerDown={(e) => actions.onGearDown(e, gear)}
      opacity={actions.inHand === gear.id ? 0.35 : 1}
    >
      {outline ? (
        <>
          <polygon points={outline} fill={fill} stroke="currentColor" strokeWidth="1.1" />
          {hatch && <polygon points={outline} fill={hatch} />}
        </>
      ) : (
        <>
          <rect {...box} fill={fill} stroke="currentColor" strokeWidth="1.1" />
          {hatch && <rect {...box} fill={hatch} />}
        </>
      )}
    </g>
  );
}

// They come while the server is asked for the boat, and not before her drawing.
const labels = import("./labels");
labels.catch(() => undefined); // one who leaves at once needs no names

type NamesProps = { bench: Bench; shown: Place[]; p: Projection; hull: Pixel[] };

/** The names of the places that are shown, and of the pieces in them that have room for one. */
function Names({ bench, shown, p, hull }: NamesProps) {
  const [placed, setPlaced] = useState<Placed[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what else the names are made of follows from these
  useEffect(() => {
    let here = true;
    const name = async () => {
      const { placeLabels } = await labels;
      await document.fonts.ready; // so that letters are measured as they will be drawn
      await painted(); // the boat is there at once, and her names a moment later
      if (here) setPlaced(placeLabels(...namesOf(bench, shown, p, hull)));
    };
    name().catch(() => undefined);
    return () => {
      here = false;
    };
  }, [bench, shown.map((q) => q.id).join(), p.width, p.height]);
  const outside = new Set(shown.filter((q) => q.leaves_hull_by_m > 0.001).map((q) => q.id));
  return <Labels placed={placed} inkOf={(key) => (outside.has(key) ? "var(--loud-ink)" : inkOf(key, shown))} />;
}

function inkOf(key: string, shown: Place[]): string {
  return shown.some((q) => q.id === key) ? "var(--quiet)" : "currentColor";
}

/** The names that want a position, and what they keep clear of. */
function namesOf(bench: Bench, shown: Place[], p: Projection, hull: Pixel[]): [Wanted[], Sheet] {
  const boxes = shown.map((q) => planBox(p, q.corner_m, q.size_m));
  const wanted: Wanted[] = [];
  for (const [i, place] of shown.entries()) {
    const box = boxes[i] as Box;
    const laid = laidIn(bench, place, p);
    wanted.push({ key: place.id, text: place.name, box, within: laid.map((l) => l.box), leader: true });
    for (const [j, l] of laid.entries()) {
      const above = laid.slice(j + 1).map((a) => a.box);
      if (l.gear && !l.outline) wanted.push({ key: l.key, text: l.gear.name, box: l.box, within: above });
    }
  }
  const people = bench.state.people.flatMap((s) => {
    const post = bench.posts.find((q) => q.id === s.post_id);
    if (!post) return [];
    const [x, y] = p.plan(post.at_m[0], post.at_m[1]);
    return [{ x: x - 18, y: y - 18, width: 36, height: 36 }];
  });
  const strokes = [[...hull, hull[0] as Pixel]];
  const bounds = { x: 6, y: 2, width: p.width - 12, height: p.profileTop - (p.bowUp ? 22 : 34) };
  return [wanted, { bounds, marks: people, solids: boxes, strokes, size: 12 }];
}

/** A post: a target while someone is in hand, and a button for each person there. */
function PostInPlan({ bench, post, p, actions }: Props & { post: Post }) {
  const [x, y] = p.plan(post.at_m[0], post.at_m[1]);
  const here = bench.state.people.filter((s) => s.post_id === post.id);
  const aimed = actions.target === post.id && actions.personInHand;
  const control = {
    tabIndex: 0,
    onFocus: () => actions.onAim("post", post.id),
    onBlur: actions.onLeave,
    onPointerEnter: () => actions.onAim("post", post.id),
    onPointerLeave: actions.onLeave,
    className:
      "cursor-pointer outline-none [&:focus-visible>circle:first-child]:stroke-accent [&:focus-visible>circle:first-child]:stroke-[3]",
  };
  return (
    <g data-target={`post:${post.id}`} data-post={post.name}>
      {actions.personInHand && (
        <g
          {...control}
          role="button"
          aria-label={`Put them at ${post.name}`}
          onClick={() => actions.onPost(post)}
          onKeyDown={press(() => actions.onPost(post))}
        >
          <circle
            cx={x}
            cy={y}
            r="22"
            fill={aimed ? "var(--water)" : "transparent"}
            stroke="currentColor"
            strokeDasharray="3 3"
          />
          {here.length === 0 && (
            <text
              x={x}
              y={y + 4}
              textAnchor="middle"
              fontSize="11"
              className="label-type pointer-events-none"
              fill="currentColor"
            >
              {post.name}
            </text>
          )}
        </g>
      )}
      {here.length === 0 && !actions.personInHand && (
        <circle cx={x} cy={y} r="3" fill="none" stroke="var(--quiet)" strokeWidth="0.9" />
      )}
      {here.map((s, i) => {
        const m = bench.members.find((q) => q.id === s.member_id);
        const cx = x + (i - (here.length - 1) / 2) * 36;
        const act = () => actions.onPerson(s.member_id, post);
        return (
          <g
            key={s.member_id}
            {...control}
            role="button"
            aria-label={`${post.name}: ${m?.name} ${s.seated ? "seated" : "standing"}`}
            data-member={m?.name}
            opacity={actions.inHand === s.member_id ? 0.35 : 1}
            onPointerDown={(e) => actions.onMemberDown(e, s.member_id)}
            onClick={act}
            onKeyDown={press(act)}
          >
            <circle cx={cx} cy={y} r="18" fill="transparent" />
            <circle cx={cx} cy={y} r="14" fill="currentColor" />
            {s.seated && <circle cx={cx} cy={y} r="17.5" fill="none" stroke="currentColor" strokeWidth="1.4" />}
            <text
              x={cx}
              y={y + 5}
              textAnchor="middle"
              fontSize="15"
              className="label-type pointer-events-none"
              fill="var(--color-base-100)"
            >
              {m?.mark}
            </text>
          </g>
        );
      })}
    </g>
  );
}
