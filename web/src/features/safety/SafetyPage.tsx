import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { askSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { ErrorNote, Waiting } from "../../ui/States";
import { Tabs } from "../../ui/Tabs";
import { day } from "../../ui/time";
import { useTitle } from "../../ui/useTitle";
import { BuiltIn } from "./BuiltIn";

const TABS = [
  ["lies", "Aboard"],
  ["built", "Built in, and what rules ask"],
] as const;

type Safety = Schemas["BoatSafety"];
type Piece = Schemas["LyingPiece"];

const CLASSES = Object.fromEntries(WORDS.safety_classes);
const STATUS = Object.fromEntries(WORDS.carriage_status);

/** Just the safety equipment on her drawing, with seconds, dates and gaps. */
export default function SafetyPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const safety = useQuery(askSafety.boat(me.crew_id, boat));
  useTitle(safety.data && `Safety, ${safety.data.name}`);
  if (safety.isPending) return <Waiting text="Looking where everything for need lies…" />;
  if (safety.isError) return <ErrorNote text={sayError(safety.error)} onRetry={() => safety.refetch()} />;
  return <Shown key={boat} me={me} s={safety.data} />;
}

function Shown({ me, s }: { me: Membership; s: Safety }) {
  const [chosen, setChosen] = useState<string>();
  const [tab, setTab] = useState<"lies" | "built">("lies");
  const numbered = useMemo(() => s.pieces.filter((p) => p.at_m).map((p, i) => ({ p, n: i + 1 })), [s.pieces]);
  const numberOf = (p: Piece) => numbered.find((x) => x.p === p)?.n;
  const solids = useMemo(
    () =>
      s.places.map((q) => ({
        name: q.name,
        corner: q.corner_m,
        size: q.size_m,
        quiet: true,
        unnamed: true,
      })),
    [s.places],
  );
  const posts = useMemo(
    () => s.posts_at.map((q) => ({ name: q.name, at: q.at_m, shape: "post" as const })),
    [s.posts_at],
  );
  return (
    <main className="flex shrink-0 flex-auto flex-col lg:grid lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_minmax(380px,460px)]">
      <div className="flex min-h-0 flex-col bg-base-100">
        <div className="p-4 lg:hidden">
          <Gaps s={s} />
        </div>
        <BoatDrawing lines={s.lines} name={s.name} attitude={s.attitude} upright solids={solids} dots={posts}>
          {(p) => (
            <>
              <Numbers
                list={numbered}
                to={(at) => p.plan(at[0] ?? 0, at[1] ?? 0)}
                chosen={chosen}
                onChoose={setChosen}
              />
              <Numbers
                list={numbered.filter(({ p: piece }) => isWrong(piece) || piece.id === chosen)}
                to={(at) => p.profile(at[0] ?? 0, at[2] ?? 0)}
                chosen={chosen}
                onChoose={setChosen}
                aside
              />
            </>
          )}
        </BoatDrawing>
      </div>
      <section
        aria-label="Safety equipment"
        className="relative min-h-0 overflow-y-auto border-(--hair) bg-base-200 p-4 pb-24 lg:border-l"
      >
        <div className="grid gap-3">
          <h1 className="label-type text-xl">Safety equipment of {s.name}</h1>
          <div className="max-lg:hidden">
            <Gaps s={s} />
          </div>
          <nav aria-label="More of her safety" className="flex flex-wrap gap-2">
            <Link className="plain-button flex items-center" to={`/boats/${s.id}/drill`}>
              Find drill
            </Link>
            <Link className="plain-button flex items-center" to={`/boats/${s.id}/brief`}>
              Guest brief
            </Link>
            <Link className="plain-button flex items-center" to={`/boats/${s.id}/jobs`}>
              Something broke
            </Link>
          </nav>
          <Tabs of="Of her safety" tabs={TABS} chosen={tab} onChoose={setTab} />
          {tab === "lies" ? (
            <List me={me} s={s} chosen={chosen} onChoose={setChosen} numberOf={numberOf} />
          ) : (
            <BuiltIn me={me} s={s} />
          )}
          <p className="leading-snug">
            <b>{s.law}</b>
          </p>
        </div>
      </section>
    </main>
  );
}

function Gaps({ s }: { s: Safety }) {
  if (s.gaps.length === 0)
    return (
      <p className="text-xl leading-snug">
        <b>{s.against.startsWith("She has no trip") ? s.against : "No gaps."}</b>{" "}
        {!s.against.startsWith("She has no trip") && <span className="quiet">{s.against}</span>}
      </p>
    );
  return (
    <section aria-label="Gaps">
      <h2 className="label-type text-2xl text-loud leading-tight">{howMany(s.gaps.length, "gap")}</h2>
      <p className="quiet text-sm">{s.against}</p>
      <ul>
        {s.gaps.map((g) => (
          <li key={g.what} className="hairline-b py-1 leading-snug">
            <b>
              {g.what}, {STATUS[g.status]}:
            </b>{" "}
            {g.why}
          </li>
        ))}
      </ul>
    </section>
  );
}

type NumbersProps = {
  list: { p: Piece; n: number }[];
  to: (at: number[]) => readonly [number, number];
  aside?: boolean; // it stands in another view already, where it can be reached by keyboard
  chosen?: string;
  onChoose: (id: string) => void;
};

/** The pieces by number where they lie, in plan and profile; what is wrong stands out by form, too. */
function Numbers({ list, to, chosen, onChoose, aside }: NumbersProps) {
  const at = apart(list.map(({ p: piece, n }) => ({ piece, n, to: to(piece.at_m ?? []) })));
  return (
    <g>
      {at.map(({ piece, n, x, y }) => {
        const wrong = isWrong(piece);
        return (
          <g
            key={piece.id}
            role={aside ? undefined : "button"}
            tabIndex={aside ? undefined : 0}
            aria-hidden={aside}
            aria-label={`${n}: ${piece.name}`}
            className="cursor-pointer"
            onClick={() => onChoose(piece.id)}
            onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onChoose(piece.id)}
          >
            <circle cx={x} cy={y} r="16" fill="transparent" />
            {wrong ? (
              <path
                d={`M${x} ${y - 13}L${x + 13} ${y}L${x} ${y + 13}L${x - 13} ${y}Z`}
                fill="var(--color-accent)"
                stroke="var(--color-base-100)"
                strokeWidth="1.5"
              />
            ) : (
              <circle
                cx={x}
                cy={y}
                r="10"
                fill={chosen === piece.id ? "var(--color-base-content)" : "var(--color-base-100)"}
                stroke="currentColor"
                strokeWidth={chosen === piece.id ? 3 : 1.4}
              />
            )}
            <text
              x={x}
              y={y + 4.5}
              textAnchor="middle"
              className="figure-type"
              fontSize="13"
              fontWeight="700"
              fill={wrong || chosen === piece.id ? "var(--color-base-100)" : "currentColor"}
            >
              {n}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function isWrong(p: Piece): boolean {
  return p.slow || p.state === "out" || p.state === "broken";
}

type Spot = { piece: Piece; n: number; to: readonly [number, number] };

/** How far apart two numbers stand, pixels. */
const APART = 25;

/** Numbers that would lie on one another are moved apart, in a spiral from where they belong. */
function apart(list: Spot[]): { piece: Piece; n: number; x: number; y: number }[] {
  const put: { piece: Piece; n: number; x: number; y: number }[] = [];
  for (const { piece, n, to } of list) {
    let [x, y] = to;
    for (let step = 0; step < 80 && put.some((o) => Math.hypot(o.x - x, o.y - y) < APART); step++) {
      const r = 6 + step * 1.6;
      x = to[0] + r * Math.cos(step * 0.9);
      y = to[1] + r * Math.sin(step * 0.9);
    }
    put.push({ piece, n, x, y });
  }
  return put;
}

type ListProps = {
  me: Membership;
  s: Safety;
  chosen?: string;
  onChoose: (id: string) => void;
  numberOf: (p: Piece) => number | undefined;
};

function List({ me, s, chosen, onChoose, numberOf }: ListProps) {
  if (s.pieces.length === 0)
    return (
      <p className="leading-snug">
        Nothing aboard is listed as safety equipment. Open a piece of gear and say what it is, or list what is built in.
        {may(me, "change_gear") && (
          <>
            {" "}
            <Link className="underline" to="/gear">
              To the gear
            </Link>
          </>
        )}
      </p>
    );
  const units = unitsOf(me.units);
  return (
    <ul aria-label="Pieces">
      {s.pieces.map((p) => (
        <li
          key={p.id}
          data-piece={p.name}
          className={`hairline-b grid grid-cols-[2rem_minmax(0,1fr)_4rem] gap-x-2 py-2 ${chosen === p.id ? "bg-base-100" : ""}`}
        >
          <button
            type="button"
            aria-label={`${numberOf(p) ?? ""} on the drawing: ${p.name}`}
            aria-pressed={chosen === p.id}
            disabled={!numberOf(p)}
            className="figure-type min-h-11 cursor-pointer text-lg disabled:cursor-default"
            onClick={() => onChoose(p.id)}
          >
            {numberOf(p) ?? ""}
          </button>
          <div className="self-center">
            {p.gear_id ? (
              <Link to={`/gear/${p.gear_id}`} className="leading-tight hover:underline">
                {p.name}
              </Link>
            ) : (
              <span className="leading-tight">{p.name}</span>
            )}
            {p.count > 1 && <span className="figure-type"> × {p.count}</span>}
            <span className="quiet block text-sm leading-snug">
              {[
                CLASSES[p.class] !== p.name && CLASSES[p.class],
                p.where,
                p.fits_high_kg
                  ? `fits ${units.mass(p.fits_low_kg ?? 0)} to ${units.mass(p.fits_high_kg)} ${units.massUnit}`
                  : "",
                p.worn_by && `worn by ${p.worn_by}`,
                p.also.length > 0 && `or serves as ${p.also.map((c) => CLASSES[c]).join(", ")}`,
                p.serial && `no. ${p.serial}`,
                p.registration,
                p.guessed && "by its tag",
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
            <Dates p={p} />
          </div>
          <p className={`figure-type self-center text-right text-lg leading-tight ${p.slow ? "text-loud" : ""}`}>
            {p.seconds === undefined ? "" : `${Math.round(p.seconds)} s`}
            {p.slow && <span className="block text-sm">over {p.within_s}</span>}
          </p>
          {chosen === p.id && p.from_posts_s.length > 0 && (
            <p className="col-span-3 pl-8 text-sm leading-snug">
              {p.from_posts_s
                .map((sec, i) => `${s.posts[i]} ${sec < 0 ? "no hand comes" : `${Math.round(sec)} s`}`)
                .join(", ")}
              .
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}

const STATE = { good: "", soon: "soon", out: "out of date", broken: "broken" } as const;

function Dates({ p }: { p: Piece }) {
  const texts = [
    p.state !== "good" && STATE[p.state],
    p.expires_on && `good until ${day(p.expires_on)}`,
    p.service_on && `${p.service} due ${day(p.service_on)}`,
  ].filter(Boolean);
  if (texts.length === 0) return null;
  const wrong = p.state === "out" || p.state === "broken";
  return <span className={`block text-sm leading-snug ${wrong ? "text-loud" : ""}`}>{texts.join(", ")}</span>;
}
