import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { askTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";
import { BoatAt } from "./BoatAt";
import { dayLanes } from "./dayLanes";
import { Frame } from "./Frame";
import { type Answer, inside } from "./moments";
import { PhaseEditor } from "./PhaseEditor";
import { TimeLine } from "./TimeLine";
import { useDay } from "./useDay";
import { Worst } from "./Worst";

/** How a trip's day goes: its phases on a line, the boat through them, what is wrong and what helps. */
export default function DayPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const view = useQuery(askTrip.day(me.crew_id, trip));
  useTitle(view.data && `Day, ${view.data.name}`);
  if (view.isPending) return <Waiting text="Working out the day…" />;
  if (view.isError) return <ErrorNote text={sayError(view.error)} onRetry={() => view.refetch()} />;
  return <Day key={`${trip} ${view.data.boat?.id}`} me={me} view={view.data} />;
}

function Day({ me, view }: { me: Membership; view: Schemas["DayView"] }) {
  const day = useDay(me, view);
  const { shown } = day;
  const [jump, setJump] = useState<number>();
  const acting = useMutation({ mutationFn: day.act });
  const mayChange = may(me, "change_gear") && !view.logged;
  const answer = shown.answer;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100 lg:grid lg:grid-cols-[minmax(0,1fr)_20rem] lg:overflow-hidden">
      <div className="grid min-w-0 content-start gap-3 p-4 lg:overflow-y-auto">
        <Head shown={shown} />
        {day.wrong && (
          <p role="alert" className="text-loud">
            {sayError(day.wrong)}
          </p>
        )}
        {answer ? (
          <>
            <Looked me={me} day={day} answer={answer} jump={jump} may={mayChange} />
            {mayChange && (
              <>
                <Frame view={shown} plan={day.plan} units={unitsOf(me.units)} onPlan={day.setPlan} />
                <SaveForm
                  name="The day"
                  draft={day.scope}
                  button={view.saved ? "Keep the day so" : "Keep this day"}
                  save={day.keep}
                  onSaved={day.done}
                >
                  {null}
                </SaveForm>
              </>
            )}
          </>
        ) : (
          <section aria-label="What is missing" className="grid gap-1 border border-(--hair) p-4">
            <h2 className="label-type text-2xl">Not reckoned yet</h2>
            {shown.lacks.map((l) => (
              <p key={l}>{l}</p>
            ))}
            {!shown.boat && (
              <Link className="underline" to={`/trips/${view.trip_id}/who`}>
                Choose the boat
              </Link>
            )}
          </section>
        )}
      </div>
      {answer && (
        <aside
          aria-label="What is wrong and what helps"
          className="border-(--hair) bg-base-200 p-4 max-lg:border-t lg:overflow-y-auto lg:border-l"
        >
          {acting.error && (
            <p role="alert" className="text-loud pb-2">
              {sayError(acting.error)}
            </p>
          )}
          <Worst
            answer={answer}
            boat={shown.boat?.id}
            remedies={day.remedies}
            busy={day.trying}
            onAt={(m) => setJump(inside(answer, m))}
            onDo={mayChange ? (r) => acting.mutate(r) : undefined}
          />
        </aside>
      )}
    </main>
  );
}

type LookedProps = {
  me: Membership;
  day: ReturnType<typeof useDay>;
  answer: Answer;
  jump: number | undefined;
  may: boolean;
};

/** The line and the boat at the moment that is looked at: the moment is kept here, so that only these follow the hand. */
function Looked({ me, day, answer, jump, may: mayChange }: LookedProps) {
  const { shown } = day;
  const [at, setAt] = useState<number>();
  const [chosen, setChosen] = useState<number>();
  const units = useMemo(() => unitsOf(me.units), [me.units]);
  const lanes = useMemo(() => dayLanes(answer, shown, units), [answer, shown, units]);
  useEffect(() => {
    if (jump !== undefined) setAt(jump);
  }, [jump]);
  const moment = at ?? worst(answer);
  return (
    <>
      <TimeLine
        answer={answer}
        plan={day.plan}
        lanes={lanes}
        people={shown.people}
        posts={shown.boat?.posts ?? NOBODY}
        at={moment}
        onAt={setAt}
        chosen={chosen}
        onChoose={setChosen}
        onHours={
          mayChange
            ? (i, h) => day.setPlan({ ...day.plan, phases: day.plan.phases.map((p, k) => (k === i ? { ...p, h } : p)) })
            : undefined
        }
      />
      {mayChange && chosen !== undefined && (
        <PhaseEditor
          me={me}
          view={shown}
          plan={day.plan}
          index={chosen}
          units={units}
          legs={day.legs}
          onPlan={(plan, next) => {
            day.setPlan(plan);
            if (next !== undefined) setChosen(next);
          }}
        />
      )}
      <div>
        <BoatAt view={shown} answer={answer} at={moment} units={units} />
      </div>
    </>
  );
}

const NOBODY: never[] = [];

function Head({ shown }: { shown: Schemas["DayView"] }) {
  const answer = shown.answer;
  if (!answer) return <h1 className="label-type text-3xl">The day</h1>;
  return (
    <div className="grid gap-0.5">
      <h1 className={`label-type text-2xl leading-tight ${answer.ready === "not_ready" ? "text-loud" : ""}`}>
        <span role="status" data-testid="day-headline">
          {answer.headline}
        </span>
      </h1>
      <p className="quiet leading-snug">
        {[
          answer.light?.words,
          shown.saved ? "" : "This is the usual day of its kind: change it to yours.",
          ...shown.lacks,
        ]
          .filter(Boolean)
          .join(" ")}
      </p>
    </div>
  );
}

/** Where the day is looked at first: its worst moment, or the middle of it. */
function worst(answer: Answer): number {
  const first =
    answer.readings.find((r) => !r.kept && r.moment >= 0) ?? answer.readings.find((r) => r.key === "freeboard");
  return (
    inside(answer, first?.moment ?? -1) ?? ((answer.phases[0]?.from_min ?? 0) + (answer.phases.at(-1)?.to_min ?? 0)) / 2
  );
}
