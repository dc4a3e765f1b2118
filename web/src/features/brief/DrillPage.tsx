import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { ask, freshGear, freshUndo } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { fromAbove } from "../../drawing/BoatFromAbove";
import { path } from "../../drawing/projection";
import { ErrorNote, Waiting } from "../../ui/States";
import { useTitle } from "../../ui/useTitle";

type Drill = Schemas["DrillView"];
type Sought = Drill["sought"][number];

const CLASSES = Object.fromEntries(WORDS.safety_classes);

/** "Extinguisher, now": a press on the drawing where it lies, timed. */
export default function DrillPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const drill = useQuery(askSafety.drill(me.crew_id, boat));
  useTitle(drill.data && `Find drill, ${drill.data.name}`);
  if (drill.isPending) return <Waiting text="Laying out the drill…" />;
  if (drill.isError) return <ErrorNote text={sayError(drill.error)} onRetry={() => drill.refetch()} />;
  return <Played key={boat} me={me} d={drill.data} />;
}

type Game = { sought: Sought; from: number; wrong: string[]; found?: number; gaveUp?: boolean };

function Played({ me, d }: { me: Membership; d: Drill }) {
  const queries = useQueryClient();
  const members = useQuery(ask.members(me.crew_id));
  const [who, setWho] = useState(me.name);
  const [game, setGame] = useState<Game>();
  const keep = useMutation({
    mutationFn: (g: Game) =>
      writeSafety.tried(me.crew_id, d.id, {
        name: who.trim(),
        gear_id: g.sought.gear_id,
        seconds: ((g.found ?? performance.now()) - g.from) / 1000,
        found: !g.gaveUp,
        wrong: g.wrong,
      }),
    onSettled: () => freshGear(queries),
  });
  const begin = () => {
    const rest = d.sought.filter((x) => x.gear_id !== game?.sought.gear_id);
    const list = rest.length > 0 ? rest : d.sought;
    const sought = list[Math.floor(Math.random() * list.length)];
    if (sought) setGame({ sought, from: performance.now(), wrong: [] });
  };
  const end = (g: Game) => {
    setGame(g);
    if (may(me, "move")) keep.mutate(g);
  };
  const press = (place: string) => {
    if (!game || over(game)) return;
    if (place === game.sought.place_id) end({ ...game, found: performance.now() });
    else if (!game.wrong.includes(place)) setGame({ ...game, wrong: [...game.wrong, place] });
  };
  return (
    <main className="flex shrink-0 flex-auto flex-col lg:grid lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="grid content-start gap-3 bg-base-100 p-4 lg:p-6">
        <Asked
          game={game}
          d={d}
          onBegin={begin}
          onGiveUp={() => game && end({ ...game, found: performance.now(), gaveUp: true })}
        />
        <Plan d={d} game={game} onPress={press} />
        {keep.error && (
          <p role="alert" className="text-loud">
            {sayError(keep.error)}
          </p>
        )}
      </div>
      <aside
        aria-label="Who knows"
        className="grid content-start gap-4 border-(--hair) bg-base-200 p-4 pb-24 max-lg:border-t lg:overflow-y-auto lg:border-l"
      >
        <label className="grid gap-0.5">
          <span className="text-sm leading-tight">Who plays</span>
          <input
            className="input min-h-11 w-full text-base"
            list="players"
            maxLength={80}
            value={who}
            onChange={(e) => setWho(e.target.value)}
          />
          <datalist id="players">
            {(members.data ?? []).map((m) => (
              <option key={m.id} value={m.name} />
            ))}
          </datalist>
        </label>
        <Knows d={d} />
        <Mistaken d={d} />
        {d.knows.length > 0 && may(me, "change_boat") && <Forget me={me} d={d} />}
      </aside>
    </main>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function over(g: Game): boolean {
  return g.found !== undefined;
}

type AskedProps = { game?: Game; d: Drill; onBegin: () => void; onGiveUp: () => void };

function Asked({ game, d, onBegin, onGiveUp }: AskedProps) {
  if (d.sought.length === 0)
    return <p className="text-xl">Nothing aboard is listed as safety equipment yet: there is nothing to look for.</p>;
  if (!game)
    return (
      <div className="grid justify-items-start gap-2">
        <h1 className="label-type text-3xl leading-tight">Find drill aboard {d.name}</h1>
        <p className="max-w-xl leading-snug">
          A thing is called. Press where it lies on the drawing, as fast as you can.
        </p>
        <button type="button" className="main-button text-lg" onClick={onBegin}>
          Call the first
        </button>
      </div>
    );
  const wrong = game.wrong.map((id) => d.places.find((p) => p.id === id)?.name).filter(Boolean);
  const lies = d.places.find((p) => p.id === game.sought.place_id)?.name;
  return (
    <div className="grid justify-items-start gap-2" aria-live="assertive">
      <h1 className="label-type text-4xl leading-tight" data-testid="called">
        {capital(CLASSES[game.sought.class] ?? game.sought.name)}, now!
      </h1>
      {over(game) ? (
        <>
          <p className="text-xl leading-snug" data-testid="outcome">
            {game.gaveUp ? "It lies" : `Found in ${(((game.found ?? 0) - game.from) / 1000).toFixed(1)} s:`}{" "}
            {game.sought.name}, {lies}.
            {game.sought.seconds !== undefined && ` A hand takes ${Math.round(game.sought.seconds)} s to it.`}
          </p>
          <button type="button" className="main-button text-lg" onClick={onBegin}>
            Call the next
          </button>
        </>
      ) : (
        <div className="flex flex-wrap items-center gap-4">
          <Clock from={game.from} />
          <button type="button" className="plain-button" onClick={onGiveUp}>
            Show me
          </button>
        </div>
      )}
      {wrong.length > 0 && <p className="text-loud leading-snug">Not in {wrong.join(", ")}.</p>}
    </div>
  );
}

function Clock({ from }: { from: number }) {
  const [now, setNow] = useState(from);
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), 100);
    return () => clearInterval(timer);
  }, []);
  return <span className="figure-type text-3xl">{((now - from) / 1000).toFixed(1)} s</span>;
}

/** Her places from above; each is a button, also by keyboard. The smallest lie on top, so that all can be pressed. */
function Plan({ d, game, onPress }: { d: Drill; game?: Game; onPress: (place: string) => void }) {
  const { at, rect, width, height } = fromAbove(d);
  const sheer = d.lines.plan_sheer_xy_m;
  const area = (p: Drill["places"][number]) => (p.size_m[0] ?? 0) * (p.size_m[1] ?? 0);
  const places = [...d.places].sort((a, b) => area(b) - area(a));
  const shown = game && over(game) ? game.sought.place_id : undefined;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="max-h-[60vh] w-full select-none"
      role="group"
      aria-label={`${d.name} from above, bow to the right`}
    >
      <path
        d={path([...sheer.map(([x, y]) => at(x, y)), ...[...sheer].reverse().map(([x, y]) => at(x, -y))], true)}
        fill="var(--color-base-200)"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      {places.map((p) => {
        const wrong = game?.wrong.includes(p.id);
        return (
          <rect
            key={p.id}
            {...rect(p)}
            role="button"
            tabIndex={0}
            aria-label={p.name}
            data-place={p.name}
            className="cursor-pointer hover:stroke-[5]"
            fill={shown === p.id ? "var(--color-accent)" : "var(--color-base-100)"}
            fillOpacity={shown === p.id ? 0.8 : 0.7}
            stroke={wrong ? "var(--color-accent)" : "currentColor"}
            strokeDasharray={wrong ? "6 4" : undefined}
            strokeWidth={wrong || shown === p.id ? 5 : 2}
            onClick={() => onPress(p.id)}
            onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onPress(p.id)}
          />
        );
      })}
    </svg>
  );
}

function Knows({ d }: { d: Drill }) {
  if (d.knows.length === 0) return <p className="quiet">Nobody has played yet.</p>;
  return (
    <section aria-label="Who knows where things are">
      <h2 className="label-type text-xl">Who knows</h2>
      <ul>
        {d.knows.map((k) => (
          <li key={k.name} className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 py-1">
            <span>{k.name}</span>
            <span className="figure-type">
              {k.at_once} of {k.tries} at once{k.seconds > 0 && `, ${k.seconds.toFixed(0)} s`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Mistaken({ d }: { d: Drill }) {
  if (d.mistaken.length === 0) return null;
  return (
    <section aria-label="Looked for in the wrong place first" className="grid gap-1">
      <h2 className="label-type text-xl">Looked for elsewhere first</h2>
      <ul>
        {d.mistaken.map((m) => (
          <li key={m.gear_id + m.place_id} className="hairline-b py-1 leading-snug">
            {m.name}: {m.times} of {m.of} looked into {m.place} first; it lies in {m.lies}.
          </li>
        ))}
      </ul>
      <p className="quiet text-sm leading-snug">
        Plans of her weigh that as a wish.{" "}
        <Link className="underline" to={`/boats/${d.id}/plan`}>
          Make a plan
        </Link>
      </p>
    </section>
  );
}

function Forget({ me, d }: { me: Membership; d: Drill }) {
  const queries = useQueryClient();
  const forget = useMutation({
    mutationFn: () => writeSafety.forget(me.crew_id, d.id),
    onSuccess: () => {
      freshGear(queries);
      freshUndo(queries);
    },
  });
  return (
    <button type="button" className="plain-button justify-self-start" onClick={() => forget.mutate()}>
      Forget all tries
    </button>
  );
}
