import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { ask } from "../../api/ask";
import { type Bench, type Membership, type MoveInput, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { LEVELS } from "../../domain/levels.gen";
import { may } from "../../domain/may";
import { type Units, unitsOf } from "../../domain/units";
import { Gauges } from "../../drawing/Gauges";
import { HatchDefs } from "../../drawing/Hatches";
import { Plan } from "../../drawing/Plan";
import { Profile } from "../../drawing/Profile";
import { extentOf, type Projection, tallSheet, wideSheet } from "../../drawing/projection";
import { Section } from "../../drawing/Section";
import { painted } from "../../ui/painted";
import { ErrorNote, Waiting } from "../../ui/States";
import { ago } from "../../ui/time";
import { useSize } from "../../ui/useSize";
import { InHand } from "./InHand";
import { Quay } from "./Quay";
import { Tally, TallyStrip } from "./Tally";
import { type Hand, moveOf, sameTarget, type Target, useHand } from "./useHand";
import { useMoves } from "./useMoves";

const Goes = lazy(() => import("./Goes").then((m) => ({ default: m.Goes })));
const placeCard = () => import("./PlaceCard");
const PlaceCard = lazy(placeCard);

export function BenchPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const bench = useQuery(ask.bench(me.crew_id, boat));
  if (bench.isPending) return <Waiting text="Loading the boat…" />;
  if (bench.isError && !bench.data) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  return <StowingBench key={boat} me={me} bench={bench.data} lost={bench.isError} />;
}

function StowingBench({ me, bench, lost }: { me: Membership; bench: Bench; lost: boolean }) {
  const units = unitsOf(me.units);
  const queries = useQueryClient();
  const mayMove = may(me, "move");
  const { move, turn, anew, note, setNote } = useMoves(me.crew_id, bench.id);
  const [chosen, setChosen] = useState<string>();
  const [drawer, setDrawer] = useState(false); // on a phone: the quay, drawn up
  const latest = useRef(bench);
  latest.current = bench;
  const clear = useRef<() => void>(() => {});
  // What the dry run said, and of which move: the hand may be over another place by now.
  const foretold = useRef<{ move?: MoveInput; refused: string[] }>({ refused: [] });
  // What was put where a rule says no: it may lie there all the same, and then that is noted.
  const [denied, setDenied] = useState<{ input: MoveInput; place: string }>();

  const offerNote = useCallback(
    async (input: MoveInput) => {
      const place = latest.current.places.find((q) => q.id === input.place_id)?.name;
      const trial = await queries.fetchQuery(ask.trial(me.crew_id, latest.current, input)).catch(() => undefined);
      if (trial?.anyway && place) setDenied({ input, place });
    },
    [queries.fetchQuery, me.crew_id],
  );

  const put = useCallback(
    (hand: Hand, target: Target) => {
      const input = moveOf(hand, target, latest.current.state);
      if (!input) {
        clear.current();
        return;
      }
      const { move: tried, refused } = foretold.current;
      setDenied(undefined);
      if (refused.length > 0 && JSON.stringify(tried) === JSON.stringify(input)) {
        setNote({ text: "It can't go there.", details: refused, loud: true });
        offerNote(input);
        return;
      }
      move.mutate(input, { onSuccess: () => clear.current(), onError: () => offerNote(input) });
    },
    [move.mutate, setNote, offerNote],
  );
  const carrying = useHand(put);
  clear.current = carrying.letGo;
  const { hand, target } = carrying;
  const question = moveOf(hand, target, bench.state);
  const trial = useQuery(ask.trial(me.crew_id, bench, question));
  const answer = question ? trial.data : undefined;
  const refused = (answer?.refused.length ?? 0) > 0;
  foretold.current = { move: question, refused: answer?.refused ?? [] };
  const targetName =
    target?.kind === "ashore"
      ? hand?.kind === "gear"
        ? "the quay"
        : "ashore"
      : [...bench.places, ...bench.posts].find((q) => q.id === target?.id)?.name;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another hand takes nothing over from the last one
  useEffect(() => setDenied(undefined), [hand?.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new aim or hand makes the old note stale
  useEffect(() => setNote(undefined), [hand?.id, target, setNote]);
  useEffect(() => {
    if (hand) setDrawer(false);
  }, [hand]);
  // The piece that keys put down: once it has left the quay, the focus goes back there, for the next one.
  const returning = useRef<string>(undefined);
  const { stowage } = bench.state;
  useEffect(() => {
    if (hand || !returning.current) return;
    if (stowage.some((s) => s.gear_id === returning.current && s.kind === "quay" && !s.inside_id)) return;
    returning.current = undefined;
    document.querySelector<HTMLButtonElement>("#quay button:not([disabled])")?.focus();
  }, [hand, stowage]);
  useEffect(() => {
    painted()
      .then(placeCard) // after the boat, and before a place is chosen
      .catch(() => undefined); // one who leaves at once needs none
  }, []);
  useUndoKeys((way) => mayMove && turn.mutate(way));

  const place = bench.places.find((q) => q.id === chosen);
  const side =
    place && !hand ? (
      <Suspense fallback={<Waiting text="Loading the place…" />}>
        <PlaceCard
          bench={bench}
          place={place}
          units={units}
          mayMove={mayMove}
          carrying={carrying}
          onLay={(lay) => move.mutate(lay)}
          onAnew={() => anew.mutate(place.id)}
          onClose={() => setChosen(undefined)}
        />
      </Suspense>
    ) : (
      <Quay
        bench={bench}
        units={units}
        mayMove={mayMove}
        carrying={carrying}
        onPutHere={() => hand && put(hand, { kind: "ashore" })}
      />
    );
  const seated = (id: string) => bench.state.people.find((s) => s.member_id === id)?.seated ?? false;
  const actions = {
    gearInHand: hand?.kind === "gear",
    personInHand: hand?.kind === "member",
    inHand: hand?.id,
    target: target && target.kind !== "ashore" ? target.id : undefined,
    refused,
    chosen,
    onPlace: (q: Bench["places"][number]) => {
      if (carrying.clickIsDrag()) return;
      if (hand?.kind === "gear" && byTouch() && !sameTarget(target, { kind: "place", id: q.id }))
        return carrying.aim({ kind: "place", id: q.id }); // the first tap shows, the second does
      if (hand?.kind === "gear") put(hand, { kind: "place", id: q.id });
      else setChosen((old) => (old === q.id ? undefined : q.id));
    },
    onPost: (q: Bench["posts"][number]) => {
      if (!carrying.clickIsDrag() && hand?.kind === "member") put(hand, { kind: "post", id: q.id });
    },
    onPerson: (id: string, at: Bench["posts"][number]) => {
      if (carrying.clickIsDrag() || !mayMove) return;
      if (hand?.kind === "member" && hand.id !== id) return put(hand, { kind: "post", id: at.id });
      carrying.pickUp({ kind: "member", id, seated: seated(id) });
    },
    onGearDown: (e: React.PointerEvent, g: Bench["gear"][number]) =>
      mayMove && carrying.press(e, { kind: "gear", id: g.id }),
    onMemberDown: (e: React.PointerEvent, id: string) =>
      mayMove && carrying.press(e, { kind: "member", id, seated: seated(id) }),
    onAim: (kind: "place" | "post", id: string) => hand && carrying.aim({ kind, id }),
    onLeave: () => !carrying.drag && carrying.aim(undefined),
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col lg:grid lg:grid-cols-[236px_minmax(0,1fr)_236px] lg:grid-rows-[minmax(0,1fr)]">
      <HatchDefs />
      <div className="low-static sticky top-0 z-10 lg:hidden">
        <TallyStrip bench={bench} then={answer?.then} units={units} />
      </div>
      <div
        className={`${(drawer || place) && !hand ? "fixed inset-x-0 bottom-0 z-30 flex max-h-[70vh] border-t-2" : "hidden"} min-h-0 flex-col border-base-content bg-base-200 lg:static lg:flex lg:max-h-none lg:border-t-0 lg:border-r lg:border-(--hair) [&>section]:min-h-0 [&>section]:flex-1`}
      >
        {!place && (
          <button type="button" className="plain-button m-2 lg:hidden" onClick={() => setDrawer(false)}>
            Back to the boat
          </button>
        )}
        {side}
      </div>
      <main className="flex min-h-0 min-w-0 flex-col bg-base-100">
        <h1 className="sr-only">Stow {bench.name}</h1>
        <div className="low-static sticky bottom-(--bar) z-10 order-2 lg:static lg:order-none">
          <InHand
            bench={bench}
            hand={hand}
            targetName={targetName}
            trial={answer}
            waiting={trial.isFetching}
            note={note}
            quayCount={bench.state.quay}
            onQuay={() => setDrawer(true)}
            units={units}
            onSit={() => hand?.kind === "member" && carrying.setHand({ ...hand, seated: !hand.seated })}
            onLetGo={carrying.letGo}
            offer={
              denied &&
              denied.input.gear_id === hand?.id && (
                <button
                  type="button"
                  className="plain-button max-w-full text-left break-words"
                  onClick={() => move.mutate({ ...denied.input, anyway: true }, { onSuccess: () => clear.current() })}
                >
                  Note: it lies in {denied.place}
                </button>
              )
            }
            mayMove={mayMove}
            goes={
              hand?.kind === "gear" &&
              carrying.byKeys &&
              !carrying.drag && (
                <Suspense>
                  <Goes
                    key={hand.id}
                    crew={me.crew_id}
                    boat={bench.id}
                    gear={hand.id}
                    version={bench.state.last?.at ?? ""}
                    onAim={carrying.aim}
                    onPut={(t) => {
                      returning.current = hand.id;
                      put(hand, t);
                    }}
                  />
                </Suspense>
              )
            }
          />
        </div>
        <Sheet bench={bench} units={units} then={answer?.then} actions={actions} />
        <Foot
          bench={bench}
          mayMove={mayMove}
          lost={lost}
          busy={move.isPending || turn.isPending}
          onTurn={(way) => turn.mutate(way)}
        />
      </main>
      <aside className="hidden min-h-0 overflow-y-auto border-(--hair) border-l bg-base-200 lg:block">
        <Tally bench={bench} then={answer?.then} units={units} />
      </aside>
      {carrying.drag && <Ghost bench={bench} hand={hand} at={carrying.drag} />}
    </div>
  );
}

type SheetProps = {
  bench: Bench;
  units: Units;
  then?: Bench["state"]["now"];
  actions: Parameters<typeof Plan>[0]["actions"];
};

/** The working drawing: plan, profile, section and the magnified gauges. */
function Sheet({ bench, units, then, actions }: SheetProps) {
  const [box, size] = useSize<HTMLDivElement>();
  const [station, setStation] = useState(Math.floor(bench.lines.sections.length / 2));
  const extent = extentOf(bench.lines);
  const [level, setLevel] = useState<string>();
  const narrow = size.width < 640;
  const p = narrow ? tallSheet(extent, size.width) : wideSheet(extent, size.width, size.height - LEVELS_ROW);
  const attitude = bench.state.now.attitude;
  const x = bench.lines.sections[station]?.x_m ?? 0;
  const beside = p.sectionRight + 28;
  return (
    <div ref={box} className="relative min-h-[36rem] flex-1 overflow-x-hidden lg:min-h-0 lg:overflow-y-auto">
      {size.width > 0 && (
        <>
          <LevelChoice places={bench.places} level={level} onChoose={setLevel} />
          <div className="relative">
            <svg
              width={p.width}
              height={p.height}
              className="block touch-manipulation select-none"
              role="group"
              aria-label={`${bench.name}, drawing`}
            >
              <Plan bench={bench} p={p} actions={actions} level={level} />
              {!narrow && <Scale p={p} length={extent.length} units={units} />}
              <ViewName p={p} y={p.profileTop - 4} text="Profile" />
              <Profile bench={bench} attitude={attitude} p={p} units={units} />
              <ViewName
                p={p}
                y={p.sectionTop - 10}
                text={`Section at ${units.length(x)} ${units.lengthUnit}, from astern`}
              />
              <Section bench={bench} attitude={attitude} p={p} index={station} />
            </svg>
            <input
              type="range"
              aria-label="Where the section is cut"
              className="absolute h-6 accent-current"
              style={{ left: p.sectionLeft, width: p.sectionRight - p.sectionLeft, top: p.sectionBottom + 1 }}
              min={0}
              max={bench.lines.sections.length - 1}
              value={station}
              onChange={(e) => setStation(Number(e.target.value))}
            />
            <div
              className={narrow ? "px-3 pb-4" : "absolute"}
              style={narrow ? undefined : { left: beside, right: 16, top: p.sectionTop - 24 }}
            >
              <h3 className="label-type pb-1.5 text-sm tracking-widest">
                FREEBOARDS, MAGNIFIED
                <span className="quiet tracking-normal"> · line across: before the last move</span>
              </h3>
              <Gauges
                now={bench.state.now}
                before={bench.state.before}
                then={then}
                limit={bench.limits.freeboard_m.value}
                units={units}
              />
            </div>
          </div>
        </>
      )}
    </div>
  );
}

const LEVELS_ROW = 36; // pixels

type LevelChoiceProps = { places: Bench["places"]; level?: string; onChoose: (level: string | undefined) => void };

/** Which level of the boat the plan shows: there is a button for each that she has places on. */
function LevelChoice({ places, level, onChoose }: LevelChoiceProps) {
  const levels = LEVELS.filter(([key]) => places.some((q) => q.level === key));
  return (
    <div
      className="flex items-center gap-x-1 overflow-x-auto px-3 [scrollbar-width:none]!"
      role="group"
      aria-label="Levels"
    >
      <span className="label-type pr-2 text-sm tracking-widest">PLAN</span>
      {levels.length > 1 &&
        [[undefined, "All levels"] as const, ...levels].map(([key, name]) => (
          <button
            key={name}
            type="button"
            aria-pressed={level === key}
            className={`label-type min-h-11 shrink-0 lg:min-h-9 cursor-pointer px-2 ${level === key ? "underline decoration-2 underline-offset-6" : "quiet hover:underline"}`}
            onClick={() => onChoose(key)}
          >
            {name}
          </button>
        ))}
    </div>
  );
}

function ViewName({ p, y, text }: { p: Projection; y: number; text: string }) {
  return (
    <text
      x={p.bowUp ? 12 : p.sectionLeft}
      y={y}
      className="label-type"
      fontSize="13"
      letterSpacing="1.5"
      fill="currentColor"
    >
      {text.toUpperCase()}
    </text>
  );
}

/** A ruler under the plan, from the foot of the transom. */
function Scale({ p, length, units }: { p: Projection; length: number; units: Units }) {
  const y = p.profileTop - GAP_TO_PROFILE;
  const step = units.lengthSI;
  const marks = Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i);
  const every = units.system === "us" ? 2 : 1;
  const [x0] = p.plan(0, 0);
  const [x1] = p.plan(length, 0);
  return (
    <g aria-hidden="true" stroke="var(--quiet)" strokeWidth="0.8">
      <line x1={x0} x2={x1} y1={y} y2={y} />
      {marks.map((i) => {
        const [x] = p.plan(i * step, 0);
        return (
          <g key={i}>
            <line x1={x} x2={x} y1={y} y2={y + (i % every === 0 ? 6 : 3)} />
            {i % every === 0 && i > 0 && (
              <text
                x={x}
                y={y + 17}
                textAnchor="middle"
                fontSize="12"
                className="label-type"
                fill="var(--quiet)"
                stroke="none"
              >
                {i} {units.lengthUnit}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

const GAP_TO_PROFILE = 26;

type FootProps = {
  bench: Bench;
  mayMove: boolean;
  lost: boolean;
  busy: boolean;
  onTurn: (way: "undo" | "redo") => void;
};

function Foot({ bench, mayMove, lost, busy, onTurn }: FootProps) {
  const { state } = bench;
  const aboard = state.stowage.filter((s) => s.place_id && !s.inside_id).length;
  const quay = state.quay;
  const people = state.people.filter((s) => s.post_id).length;
  return (
    <footer className="order-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-(--hair) border-t px-4 py-1.5 lg:order-none">
      {mayMove && (
        <span className="flex gap-2">
          <button
            type="button"
            className="plain-button flex items-center gap-1.5"
            disabled={!state.can_undo || busy}
            onClick={() => onTurn("undo")}
          >
            <Undo2 size={18} aria-hidden="true" /> Undo
          </button>
          <button
            type="button"
            className="plain-button flex items-center gap-1.5"
            disabled={!state.can_redo || busy}
            onClick={() => onTurn("redo")}
          >
            <Redo2 size={18} aria-hidden="true" /> Redo
          </button>
        </span>
      )}
      <span className="min-w-0 flex-1 text-sm leading-snug" data-testid="last-move">
        {lost && <b className="text-loud">The server can't be reached; this is the last that was seen. </b>}
        {state.last ? `${state.last.by}: ${state.last.what}, ${ago(state.last.at)}` : "Nothing was moved yet."}
      </span>
      <span className="quiet text-sm">
        {quay || "Nothing"} on the quay · {aboard || "nothing"} aboard ·{" "}
        {people === 0 ? "nobody" : howMany(people, "person", "people")}
      </span>
    </footer>
  );
}

function Ghost({ bench, hand, at }: { bench: Bench; hand: Hand | undefined; at: { x: number; y: number } }) {
  const name =
    hand?.kind === "gear"
      ? bench.gear.find((g) => g.id === hand.id)?.name
      : bench.members.find((m) => m.id === hand?.id)?.name;
  return (
    <div
      className="label-type pointer-events-none fixed z-30 bg-primary px-2 py-1 text-primary-content"
      style={{ left: at.x + 12, top: at.y + 10 }}
      aria-hidden="true"
    >
      {name}
    </div>
  );
}

function byTouch(): boolean {
  return window.matchMedia("(hover: none)").matches;
}

function useUndoKeys(turn: (way: "undo" | "redo") => void) {
  const act = useRef(turn);
  act.current = turn;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== "z") return;
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
      e.preventDefault();
      act.current(e.shiftKey ? "redo" : "undo");
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
