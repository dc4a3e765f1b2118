import type { KeyboardEvent, PointerEvent } from "react";
import type { Bench, Gear, Place, Post } from "../api/client";
import { hatchOf } from "./Hatches";
import { fitLabel, type Projection, path, planBox, rodOutline, twoLines } from "./projection";

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

export function Plan({ bench, p, actions }: Props) {
  const { lines } = bench;
  const port = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, y));
  const starboard = lines.plan_sheer_xy_m.map(([x, y]) => p.plan(x, -y)).reverse();
  const last = lines.plan_sheer_xy_m.at(-1)?.[0] ?? 0;
  const centre = [p.plan(-0.15, 0), p.plan(last + 0.12, 0)];
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
      {fromBelow(bench.places).map((place) => (
        <PlaceInPlan key={place.id} bench={bench} place={place} p={p} actions={actions} />
      ))}
      {bench.posts.map((post) => (
        <PostInPlan key={post.id} bench={bench} post={post} p={p} actions={actions} />
      ))}
    </g>
  );
}

/** The highest drawn last, as one sees it from above. */
function fromBelow(places: Place[]): Place[] {
  const top = (q: Place) => q.corner_m[2] + q.size_m[2];
  return [...places].sort((a, b) => top(a) - top(b));
}

function press(act: () => void) {
  return (e: KeyboardEvent) => {
    if (e.key === "Enter" || e.key === " ") {
      e.preventDefault();
      act();
    }
  };
}

const LABEL = 12;

function PlaceInPlan({ bench, place, p, actions }: Props & { place: Place }) {
  const box = planBox(p, place.corner_m, place.size_m);
  const within = bench.state.stowage.filter((s) => s.place_id === place.id && !s.inside_id);
  const count = within.length;
  const aimed = actions.target === place.id;
  const out = place.leaves_hull_by_m > 0.001;
  const loud = (aimed && actions.refused) || out;
  const upright = box.height > 2.5 * box.width;
  const lines = upright
    ? [fitLabel(place.name, box.height - 5, LABEL)]
    : twoLines(place.name, box.width - 5, LABEL).slice(0, box.height > 40 ? 2 : 1);
  const laid = within
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
  const seen = laid.filter((l, i) => !laid.slice(i + 1).some((over) => covers(over.box, l.box)));
  const under = upright ? box.y : box.y + lines.length * LABEL + 1;
  const does = actions.gearInHand
    ? `Put it in ${place.name}`
    : `${place.name}, ${count} ${count === 1 ? "piece" : "pieces"}`;
  const warning = out ? `; leaves the hull by ${Math.round(place.leaves_hull_by_m * 100)} cm ${place.leaves_hull}` : "";
  return (
    <g>
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
          fill={aimed && actions.gearInHand ? "var(--water)" : "var(--color-base-100)"}
          stroke={loud ? "var(--color-accent)" : "currentColor"}
          strokeWidth={loud || aimed || actions.chosen === place.id ? 2.4 : 0.8}
          strokeDasharray={actions.gearInHand && !aimed ? "3 3" : undefined}
        />
        {laid.map((l) => (
          <GearInPlan key={l.key} bench={bench} gear={l.gear} box={l.box} outline={l.outline} actions={actions} />
        ))}
      </g>
      <g aria-hidden="true" className="pointer-events-none">
        {seen.map((l) => (
          <GearLabel key={l.key} gear={l.gear} box={l.box} under={under} />
        ))}
        {lines.map((line, i) => (
          <text
            key={line}
            transform={
              upright
                ? `translate(${box.x + LABEL - 1} ${box.y + box.height - 3}) rotate(-90)`
                : `translate(${box.x + 3} ${box.y + LABEL * (i + 1) - 0.5})`
            }
            fontSize={LABEL}
            className="label-type"
            fill={out ? "var(--loud-ink)" : "var(--quiet)"}
            stroke="var(--color-base-100)"
            strokeWidth="3.5"
            paintOrder="stroke"
          >
            {line}
          </text>
        ))}
      </g>
    </g>
  );
}

type BoxPx = { x: number; y: number; width: number; height: number };

/** Whether a piece above hides the middle of one below, where its name would stand. */
function covers(above: BoxPx, below: BoxPx): boolean {
  const x = below.x + below.width / 2;
  const y = below.y + below.height / 2;
  return x >= above.x && x <= above.x + above.width && y >= above.y && y <= above.y + above.height;
}

function GearInPlan(props: { bench: Bench; gear?: Gear; box: BoxPx; outline?: string; actions: PlanActions }) {
  const { gear, box, outline, actions } = props;
  if (!gear) return null;
  const hatch = hatchOf(props.bench.members, gear.owner_id);
  return (
    <g
      data-gear={gear.name}
      onPointerDown={(e) => actions.onGearDown(e, gear)}
      opacity={actions.inHand === gear.id ? 0.35 : 1}
    >
      {outline ? (
        <>
          <polygon points={outline} fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.1" />
          {hatch && <polygon points={outline} fill={hatch} />}
        </>
      ) : (
        <>
          <rect {...box} fill="var(--color-base-100)" stroke="currentColor" strokeWidth="1.1" />
          {hatch && <rect {...box} fill={hatch} />}
        </>
      )}
    </g>
  );
}

/** A piece's name, where it is large enough and the place's own name (down to under) is not in the way. */
function GearLabel({ gear, box, under }: { gear?: Gear; box: BoxPx; under: number }) {
  const middle = box.y + box.height / 2;
  const free = middle - 9 > under || box.y + box.height < under;
  const label = gear && box.height >= 14 && free ? fitLabel(gear.name, box.width - 4, 12) : "";
  if (!label) return null;
  return (
    <text
      x={box.x + box.width / 2}
      y={middle + 4}
      textAnchor="middle"
      fontSize="12"
      className="label-type"
      fill="currentColor"
      stroke="var(--color-base-100)"
      strokeWidth="3"
      paintOrder="stroke"
    >
      {label}
    </text>
  );
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
              {fitLabel(post.name, 48, 11)}
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
