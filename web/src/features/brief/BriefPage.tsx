import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Brief } from "../../parts/Brief";
import { Checks, Loose, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

/** The minute in which guests learn where things are: from where things lie now. */
export default function BriefPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const brief = useQuery(askSafety.brief(me.crew_id, boat));
  const safety = useQuery(askSafety.boat(me.crew_id, boat));
  useTitle(brief.data && `Brief, ${brief.data.boat}`);
  if (brief.isPending || safety.isPending) return <Waiting text="Writing the brief…" />;
  if (brief.isError) return <ErrorNote text={sayError(brief.error)} onRetry={() => brief.refetch()} />;
  if (safety.isError) return <ErrorNote text={sayError(safety.error)} onRetry={() => safety.refetch()} />;
  const v = brief.data;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100 lg:grid lg:grid-cols-[minmax(0,1fr)_24rem] lg:overflow-hidden">
      <section
        aria-label="The brief"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is scrolled by the keyboard
        tabIndex={0}
        className="grid content-start gap-4 p-4 lg:overflow-y-auto lg:p-6"
      >
        <h1 className="label-type text-3xl leading-tight">Aboard {v.boat}</h1>
        {v.lacks.length > 0 && <p className="text-loud no-print leading-snug">Not said yet: {v.lacks.join(" ")}</p>}
        <div className="max-w-2xl">
          <Brief v={v} />
        </div>
      </section>
      <aside
        aria-label="For the crew"
        className="no-print grid content-start gap-5 border-(--hair) bg-base-200 p-4 pb-24 max-lg:border-t lg:overflow-y-auto lg:border-l"
      >
        <Card me={me} boat={boat} />
        {may(me, "change_boat") && <OwnWords key={boat} me={me} s={safety.data} />}
        <p className="quiet text-sm leading-snug">
          It follows the stowage: move the throwable, and the brief says so.{" "}
          <Link className="underline" to={`/boats/${boat}/drill`}>
            Find drill
          </Link>
        </p>
      </aside>
    </main>
  );
}

/** The card on paper, and the link that its code opens. */
function Card({ me, boat }: { me: Membership; boat: string }) {
  const make = useMutation({ mutationFn: () => writeSafety.boatLink(me.crew_id, boat) });
  const end = useMutation({
    mutationFn: () => writeSafety.noBoatLink(me.crew_id, boat),
    onSuccess: () => make.reset(),
  });
  const link = make.data && `${window.location.origin}/aboard#${make.data.token}`;
  const print = useMutation({ mutationFn: () => printed(me.crew_id, boat, link) });
  const error = make.error ?? end.error ?? print.error;
  return (
    <section aria-label="Card and link" className="grid gap-2">
      <h2 className="label-type text-xl">On paper, and on their phones</h2>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="main-button" disabled={print.isPending} onClick={() => print.mutate()}>
          {link ? "A5 card with the code" : "A5 card"}
        </button>
        {may(me, "change_boat") && (
          <button type="button" className="plain-button" disabled={make.isPending} onClick={() => make.mutate()}>
            Make the link
          </button>
        )}
        {may(me, "change_boat") && (
          <button type="button" className="plain-button" disabled={end.isPending} onClick={() => end.mutate()}>
            End the link
          </button>
        )}
      </div>
      {link && (
        <p className="break-all border border-base-content p-3" data-testid="boat-link">
          {link}
        </p>
      )}
      <p className="quiet text-sm leading-snug">
        The link shows this page and nothing else of the crew. It lasts until it is ended; a new one ends the older, and
        the codes that were printed with it.
      </p>
      {error && (
        <p role="alert" className="text-loud">
          {sayError(error)}
        </p>
      )}
    </section>
  );
}

async function printed(crew: string, boat: string, link: string | undefined) {
  const response = await fetch(`/api/crews/${crew}/boats/${boat}/brief/card`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ link }),
  });
  if (!response.ok) throw new Error();
  const url = URL.createObjectURL(await response.blob());
  const a = document.createElement("a");
  a.href = url;
  a.download = "brief.pdf";
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

function OwnWords({ me, s }: { me: Membership; s: Schemas["BoatSafety"] }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.brief.${s.id}`;
  const b = s.brief;
  const [f, setF] = useDraft(`${scope}.words`, {
    call_sign: b.call_sign ?? "",
    mmsi: b.mmsi ?? "",
    rescue: b.rescue ?? "",
    stop: b.stop ?? "",
    relief: b.relief ?? "",
    back: b.back ?? "",
    toilet: b.toilet ?? "",
    hold: b.hold ?? "",
    own: (b.own ?? []).join("\n"),
    seats: b.seats ?? [],
  });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  return (
    <section aria-label="In your words">
      <h2 className="label-type text-xl">In your words</h2>
      <SaveForm
        name="In your words"
        draft={scope}
        button="Keep it"
        save={() => {
          const { own: lines, seats: posts, ...words } = f;
          const said = Object.fromEntries(Object.entries(words).filter(([, v]) => v.trim() !== ""));
          const seats = posts.filter((id) => s.posts_at.some((q) => q.id === id));
          const own = lines
            .split("\n")
            .map((x) => x.trim())
            .filter(Boolean);
          return writeSafety.brief(
            me.crew_id,
            s.id,
            { ...said, own: own as Schemas["BriefInput"]["own"], seats },
            s.version,
          );
        }}
        onSaved={() => freshGear(queries)}
      >
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          <Loose label="Call sign" max={40} value={f.call_sign} onChange={(call_sign) => put({ call_sign })} />
          <Loose label="Number of the distress button" max={9} value={f.mmsi} onChange={(mmsi) => put({ mmsi })} />
          <div className="col-span-2 grid gap-2">
            <Loose label="Whom to call by phone" max={160} value={f.rescue} onChange={(rescue) => put({ rescue })} />
            <Loose label="Where to sit and hold on" max={160} value={f.hold} onChange={(hold) => put({ hold })} />
            <fieldset>
              <legend className="text-sm">Guests sit at</legend>
              <Checks
                all={s.posts_at.map((q) => [q.id, q.name])}
                on={(id) => f.seats.includes(id)}
                set={(id, on) => put({ seats: on ? [...f.seats, id] : f.seats.filter((x) => x !== id) })}
              />
            </fieldset>
            <Loose label="How to stop the engine" max={160} value={f.stop} onChange={(stop) => put({ stop })} />
            <Loose label="The way back aboard" max={160} value={f.back} onChange={(back) => put({ back })} />
            <Loose label="Toilet" max={160} value={f.toilet} onChange={(toilet) => put({ toilet })} />
            <Loose
              label="Who takes over, and does what"
              max={160}
              value={f.relief}
              onChange={(relief) => put({ relief })}
            />
            <label className="grid gap-0.5">
              <span className="text-sm leading-tight">What else, a line each</span>
              <textarea
                className="textarea min-h-20 w-full text-base"
                value={f.own}
                onChange={(e) => put({ own: e.target.value })}
              />
            </label>
          </div>
        </div>
      </SaveForm>
    </section>
  );
}
