import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { askBoat } from "../../api/askBoat";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { type Drawn, Fittings, outlineIn } from "../../drawing/Fittings";
import type { Projection } from "../../drawing/projection";
import { ErrorNote, Waiting } from "../../ui/States";
import { Tabs } from "../../ui/Tabs";
import { useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";
import { useTitle } from "../../ui/useTitle";
import { AtWork } from "./AtWork";
import { EntryLine } from "./EntryLine";
import { Findings, Summary } from "./Findings";
import { attempt, type FittingInput, type FittingView, fieldsOf, type Hand, handOf, movedTo } from "./handForm";
import { InHand } from "./InHand";
import { Listed } from "./Listed";
import { Mover } from "./Mover";
import { Moving } from "./Moving";
import { Sonar } from "./Sonar";
import { Spaces } from "./Spaces";

export type Rigging = Schemas["Rigging"];

/** What is fastened to her, what is in whose way, and the dry run of a mount. */
export default function RiggingPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const rigging = useQuery(askBoat.rigging(me.crew_id, boat));
  useTitle(rigging.data && `Rigging of ${rigging.data.name}`);
  if (rigging.isPending) return <Waiting text="Loading what is fastened to her…" />;
  if (rigging.isError) return <ErrorNote text={sayError(rigging.error)} onRetry={() => rigging.refetch()} />;
  return <Rigged key={boat} me={me} rigging={rigging.data} />;
}

function Rigged({ me, rigging }: { me: Membership; rigging: Rigging }) {
  const units = unitsOf(me.units);
  const fields = useMemo(() => fieldsOf(unitsOf(me.units), rigging.sea), [me.units, rigging.sea]);
  const mayChange = may(me, "change_boat");
  const scope = `${me.crew_id}.rigging.${rigging.id}.${me.units}`;
  const [hands, setHands] = useDraft<Hand[]>(`${scope}.hands`, []);
  const hand = hands[0];
  const setHand = (h: Hand | undefined) => setHands(h ? [h, ...hands.slice(1)] : hands.slice(1));
  const take = (id: string) => {
    const f = [...rigging.fittings, ...rigging.off].find((x) => x.id === id);
    if (f) setHands([handOf(fields, known(f, rigging)), ...hands.filter((h) => !h.id)]);
  };
  useTaken(take, rigging);
  const input = useMemo(() => hand && attempt(fields, hand), [fields, hand]);
  const holding = hand?.id ?? `new ${hands.length}`;
  const settled = useSettled(input && `${holding}\n${JSON.stringify(input)}`, 80);
  const asked = settled?.startsWith(`${holding}\n`) ? settled.slice(holding.length + 1) : undefined; // of this one
  const tried = useQuery(askBoat.fittingTried(me.crew_id, rigging.id, holding, hand?.id, asked));
  const { mounted, list } = useDrawn(rigging, hand, input, tried.data?.findings);
  const [spacing, setSpacing] = useState(false);
  const [space, setSpace] = useState<string>();
  const [tab, setTab] = useState<Tab>("way");
  const [sonar, setSonar] = useState<string>();
  const spaces = useQuery(askBoat.spaces(me.crew_id, rigging.id, spacing && !hand));
  const worst = tried.data?.findings.find((f) => !f.note);
  const names = useCallback((p: Projection) => namesOf(mounted, p), [mounted]);
  const marks = useCallback((p: Projection) => mounted.map((f) => boxIn(p, f)), [mounted]);
  const judging = !hand && tab === "sonar";
  const dots = useMemo(
    () => [
      ...rigging.posts.map((q) => ({ name: q.name, at: q.at_m, shape: "post" as const })),
      ...(judging ? rigging.sonar.map((q) => ({ name: q.name, at: q.at_m, shape: "mass" as const })) : []),
    ],
    [rigging, judging],
  );
  const boxes = !hand && spacing ? spaces.data : undefined;
  const solids = useMemo(
    () => [
      ...rigging.places.map((q) => ({
        name: q.name,
        corner: q.corner_m,
        size: q.size_m,
        quiet: true,
        unnamed: true,
      })),
      ...(boxes ?? [])
        .filter((q) => space === undefined || q.name === space)
        .map((q) => ({ name: `${q.name} (free)`, corner: q.corner_m, size: q.size_m, fill: 1 })),
    ],
    [rigging, boxes, space],
  );
  return (
    <main className="flex shrink-0 flex-auto flex-col lg:grid lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_minmax(360px,430px)]">
      <div className="flex min-h-0 flex-col bg-base-100">
        {mayChange && !hand && (
          <EntryLine
            me={me}
            rigging={rigging}
            onRead={(read) => setHands(read.map(({ doubts, ...f }) => handOf(fields, f as FittingInput, doubts)))}
          />
        )}
        {hand && (
          <div className="px-4 pt-3">
            <p>
              <b>{hand.chosen.name}</b> is in hand{hands.length > 1 && `, and ${hands.length - 1} more after it`}.
              {mayChange && " Press where it goes; arrows nudge it, with shift finely."}
            </p>
            {worst && <p className="text-loud leading-snug lg:hidden">{worst.said}</p>}
          </div>
        )}
        <BoatDrawing
          lines={rigging.lines}
          name={rigging.name}
          attitude={rigging.attitude}
          upright
          tallSection
          names={names}
          marks={judging ? undefined : marks}
          solids={solids}
          dots={dots}
        >
          {(p) => (
            <>
              <Fittings list={list} p={p} onTake={hand ? undefined : take} />
              {hand && input && mayChange && (
                <Mover p={p} input={input} onMove={(to) => setHand(movedTo(fields, hand, to))} />
              )}
            </>
          )}
        </BoatDrawing>
      </div>
      <section
        aria-label={hand ? "In hand" : spacing ? "Space nobody uses" : "What is in the way"}
        className="relative min-h-0 overflow-y-auto border-(--hair) bg-base-200 p-4 pb-24 lg:border-l"
      >
        {hand ? (
          <InHand
            key={hand.id ?? `new ${hands.length}`}
            me={me}
            rigging={rigging}
            fields={fields}
            hand={hand}
            more={hands.slice(1)}
            tried={asked ? tried : undefined}
            onChange={setHand}
            onAside={() => setHand(undefined)}
            onAll={() => setHands([])}
            onNext={(next) => setHands(next)}
          />
        ) : spacing ? (
          <Spaces
            me={me}
            rigging={rigging}
            spaces={spaces}
            chosen={space}
            onChoose={setSpace}
            onDone={() => {
              setSpacing(false);
              setSpace(undefined);
            }}
          />
        ) : (
          <div className="grid gap-3">
            <Summary rigging={rigging} />
            <Tabs of="Of her rigging" tabs={TABS} chosen={tab} onChoose={setTab} />
            {tab === "way" && (
              <>
                <Findings rigging={rigging} onTake={take} />
                <button type="button" className="plain-button justify-self-start" onClick={() => setSpacing(true)}>
                  Space nobody uses
                </button>
              </>
            )}
            {tab === "listed" && <Listed rigging={rigging} units={units} onTake={take} />}
            {tab === "off" && <Moving me={me} rigging={rigging} />}
            {tab === "work" && <AtWork me={me} rigging={rigging} units={units} />}
            {tab === "sonar" && <Sonar me={me} rigging={rigging} chosen={sonar} onChoose={setSonar} />}
          </div>
        )}
      </section>
    </main>
  );
}

const TABS = [
  ["way", "In the way"],
  ["listed", "Listed"],
  ["off", "Comes off"],
  ["work", "At work"],
  ["sonar", "Sonar"],
] as const;

type Tab = (typeof TABS)[number][0];

/** A fitting without posts and places that are not hers, or not there any more. */
function known(f: FittingView, rigging: Rigging): FittingView {
  const lies = { ...f.lies };
  if (!rigging.posts.some((q) => q.id === lies.post_id)) delete lies.post_id;
  if (!rigging.places.some((q) => q.id === lies.straps_place_id)) delete lies.straps_place_id;
  return { ...f, lies };
}

/** Takes in hand what the address names, once. */
function useTaken(take: (id: string) => void, rigging: Rigging) {
  const [query, setQuery] = useSearchParams();
  const id = query.get("fitting");
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the address names one
  useEffect(() => {
    if (!id) return;
    if (rigging.fittings.some((f) => f.id === id)) take(id);
    setQuery({}, { replace: true });
  }, [id]);
}

const IN_HAND = "in hand";

/** What is drawn: what is mounted, with what is in the way in the loud colour, and what is in hand in its own stead. */
function useDrawn(
  rigging: Rigging,
  hand: Hand | undefined,
  input: FittingInput | undefined,
  tried: Schemas["FindingView"][] | undefined,
): { mounted: Drawn[]; list: Drawn[] } {
  const found = (hand ? tried : rigging.findings) ?? [];
  const loud = [...new Set(found.filter((f) => !f.note).flatMap((f) => [f.fitting_id, f.other_id ?? ""]))].sort();
  const met = loud.join();
  const id = hand?.id;
  // What is mounted stays the same while a hand moves, so that only what is in hand is drawn anew.
  const mounted = useMemo(() => {
    const meets = new Set(met.split(","));
    return rigging.fittings
      .filter((f) => f.id !== id)
      .map((f): Drawn => ({ id: f.id, name: f.name, kind: f.kind, lies: f.lies, loud: meets.has(f.id) }));
  }, [rigging.fittings, id, met]);
  const list = useMemo(() => {
    if (!input) return mounted;
    return [...mounted, { id: id ?? IN_HAND, name: input.name, kind: input.kind, lies: input.lies, held: true }];
  }, [mounted, id, input]);
  return { mounted, list };
}

/** What a fitting covers in plan. */
function boxIn(p: Projection, f: Drawn) {
  const points = outlineIn(p, "plan", f.lies);
  const xs = points.map((q) => q[0]);
  const ys = points.map((q) => q[1]);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

/** Names of what is in the way; the others say theirs when pointed at. */
function namesOf(list: Drawn[], p: Projection) {
  return list
    .filter((f) => f.loud)
    .map((f) => ({ key: `fitting ${f.id}`, text: f.name, box: boxIn(p, f), leader: true }));
}
