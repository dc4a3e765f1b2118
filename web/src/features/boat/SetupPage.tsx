import { useQuery } from "@tanstack/react-query";
import { Check, Printer } from "lucide-react";
import { type ReactNode, useEffect, useRef } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { ErrorNote, Waiting } from "../../ui/States";
import { EngineStage } from "./EngineStage";
import { HullStage } from "./HullStage";
import { PlacesStage } from "./PlacesStage";
import { PlateStage } from "./PlateStage";
import { PostsStage } from "./PostsStage";
import { TanksStage } from "./TanksStage";
import { type BoatView, STAGES, type Stage } from "./useBoat";

export default function SetupPage({ me }: { me: Membership }) {
  const { boat } = useParams();
  const known = useQuery(askBoat.boat(me.crew_id, boat));
  const choices = useQuery(askBoat.hullForms(me.crew_id));
  const [query] = useSearchParams();
  if (!may(me, "change_boat")) return <ErrorNote text="Setting up a boat is for an owner or a skipper of the crew." />;
  if ((boat && known.isPending) || choices.isPending) return <Waiting text="Loading the boat…" />;
  if (boat && known.isError) return <ErrorNote text={sayError(known.error)} onRetry={() => known.refetch()} />;
  if (choices.isError) return <ErrorNote text={sayError(choices.error)} onRetry={() => choices.refetch()} />;
  const asked = STAGES.find((s) => s.key === query.get("stage"))?.key;
  const stage: Stage = known.data
    ? (asked ?? STAGES.find((s) => !known.data.setup?.includes(s.key))?.key ?? "hull")
    : "hull";
  return <Setup key={`${boat}.${stage}`} me={me} boat={known.data} stage={stage} choices={choices.data} />;
}

/** Puts drawing and form side by side; on a phone a small drawing may stay in sight over the form. */
export type Frame = (drawing: ReactNode, form: ReactNode, stays?: boolean) => ReactNode;

export type StageProps = {
  me: Membership;
  boat: BoatView;
  onDone: () => void;
  frame: Frame;
  choices: Schemas["HullChoices"];
};

type SetupProps = {
  me: Membership;
  boat?: BoatView;
  stage: Stage;
  choices: Schemas["HullChoices"];
};

function Setup({ me, boat, stage, choices }: SetupProps) {
  const navigate = useNavigate();
  const stageForm = useRef<HTMLElement>(null);
  useEffect(() => {
    // The focus follows from stage to stage, so that keys go on where they are.
    if (document.activeElement === document.body) stageForm.current?.focus({ preventScroll: true });
  }, []);
  const go = (id: string, from: Stage) => {
    const next = STAGES[STAGES.findIndex((s) => s.key === from) + 1];
    navigate(next ? `/boats/${id}/setup?stage=${next.key}` : `/boats/${id}`);
  };
  const frame: Frame = (drawing, form, stays) => (
    <main className="flex shrink-0 flex-auto flex-col lg:grid lg:min-h-0 lg:flex-1 lg:grid-cols-[188px_minmax(0,1fr)_minmax(340px,420px)] lg:grid-rows-[minmax(0,1fr)]">
      <Rail me={me} boat={boat} stage={stage} />
      <div
        className={`flex flex-col bg-base-100 lg:static lg:min-h-0 ${stays ? "low-static stays sticky top-0 z-[5] border-(--hair) border-b lg:border-b-0" : "min-h-72"}`}
      >
        {drawing}
      </div>
      <section
        ref={stageForm}
        tabIndex={-1}
        aria-label={STAGES.find((s) => s.key === stage)?.title}
        className="relative min-h-0 overflow-y-auto border-(--hair) bg-base-200 p-4 outline-none! lg:border-l"
      >
        {form}
      </section>
    </main>
  );
  if (!boat || stage === "hull")
    return <HullStage me={me} boat={boat} choices={choices} frame={frame} onDone={(id) => go(id, "hull")} />;
  const props = { me, boat, frame, choices, onDone: () => go(boat.id, stage) };
  switch (stage) {
    case "plate":
      return <PlateStage {...props} />;
    case "engine":
      return <EngineStage {...props} />;
    case "tanks":
      return <TanksStage {...props} />;
    case "posts":
      return <PostsStage {...props} />;
    default:
      return <PlacesStage {...props} />;
  }
}

/** The stages in the order a person walks round a boat with a tape. */
function Rail({ me, boat, stage }: { me: Membership; boat?: BoatView; stage: Stage }) {
  const bench = useQuery({ ...ask.bench(me.crew_id, boat?.id ?? ""), enabled: boat !== undefined });
  // What is there is there, whether anyone pressed Done or not.
  const counts: Partial<Record<Stage, number>> = {
    posts: bench.data?.posts.length,
    places: bench.data?.places.length,
  };
  return (
    <nav
      aria-label="Stages of setting up"
      className="relative flex gap-x-1 overflow-x-auto [scrollbar-width:none]! border-(--hair) border-b bg-base-200 p-2 lg:flex-col lg:overflow-visible lg:border-r lg:border-b-0 lg:p-3"
    >
      <h1 className="label-type pb-2 text-2xl leading-tight max-lg:sr-only">
        {boat ? `Set up ${boat.name}` : "A new boat"}
      </h1>
      {STAGES.map((s) => {
        const n = counts[s.key];
        const done = boat?.setup?.includes(s.key) || (n ?? 0) > 0;
        const here = s.key === stage;
        const body = (
          <>
            <span className="grid size-6 shrink-0 place-items-center" aria-hidden="true">
              {done ? <Check size={18} /> : <span className="size-2.5 rounded-full border border-current" />}
            </span>
            {s.title}
            {n ? <span className="figure-type text-base">{n}</span> : null}
            <span className="sr-only">{done ? ", done" : ", to do"}</span>
          </>
        );
        const look = `label-type flex min-h-11 shrink-0 items-center gap-1.5 px-1.5 text-lg ${here ? "border-b-3 border-base-content lg:border-b-0 lg:border-l-3" : "quiet lg:border-l-3 lg:border-transparent"}`;
        return boat ? (
          <Link key={s.key} to={`?stage=${s.key}`} aria-current={here ? "step" : undefined} className={look}>
            {body}
          </Link>
        ) : (
          <span key={s.key} className={look} aria-current={here ? "step" : undefined}>
            {body}
          </span>
        );
      })}
      {boat && (
        <div className="flex shrink-0 items-center gap-4 px-2 lg:grid lg:gap-2 lg:px-0 lg:pt-6">
          <SheetLinks me={{ boat: boat.id }} />
          <Link className="quiet flex min-h-11 items-center whitespace-nowrap underline" to="/boats/new">
            Add another boat
          </Link>
        </div>
      )}
    </nav>
  );
}

function SheetLinks({ me }: { me: { boat: string } }) {
  return (
    <Link className="flex min-h-11 items-center gap-1.5 whitespace-nowrap underline" to={`/boats/${me.boat}/sheet`}>
      <Printer size={18} aria-hidden="true" /> Sheet to print
    </Link>
  );
}
