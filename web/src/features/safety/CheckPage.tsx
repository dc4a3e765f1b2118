import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { freshGear } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { askTrip } from "../../api/askTrip";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { Choice, Loose, Page, SaveForm } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";
import { useTitle } from "../../ui/useTitle";

type Check = Schemas["CheckView"];
type Row = Schemas["RowView"];

const STATUS = Object.fromEntries(WORDS.carriage_status);

const allMet = (n: number) => (n === 1 ? "The one that is asked is met." : `All ${n} that are asked are met.`);

/** A trip held against the crew's rules: what is wrong first, with what would settle it. */
export default function CheckPage({ me }: { me: Membership }) {
  const { trip = "" } = useParams();
  const check = useQuery(askSafety.check(me.crew_id, trip));
  const page = useQuery(askTrip.page(me.crew_id, trip));
  useTitle(page.data && `Safety, ${page.data.name}`);
  if (check.isPending || page.isPending) return <Waiting text="Holding the trip against the rules…" />;
  if (check.isError) return <ErrorNote text={sayError(check.error)} onRetry={() => check.refetch()} />;
  if (page.isError) return <ErrorNote text={sayError(page.error)} onRetry={() => page.refetch()} />;
  const c = check.data;
  const wrong = c.rows.filter((r) => r.status !== "met" && r.status !== "not_asked");
  const met = c.rows.filter((r) => r.status === "met");
  const not = c.rows.filter((r) => r.status === "not_asked");
  const changes = may(me, "change_gear") && !page.data.logged;
  return (
    <Page title={`What must be aboard: ${page.data.name}`}>
      <p className="text-2xl leading-tight" role="status" data-testid="unmet">
        {wrong.length > 0 ? (
          <b className="text-loud">
            {wrong.length} of {wrong.length + met.length} {wrong.length === 1 ? "is" : "are"} not met.
          </b>
        ) : (
          <b>{met.length === 0 ? "Nothing is asked yet." : allMet(met.length)}</b>
        )}
      </p>
      {wrong.length > 0 && (
        <ul aria-label="Not met" className="grid border-base-content border-t">
          {wrong.map((r) => (
            <Wrong key={r.what} me={me} check={c} boat={page.data.boat_id} r={r} may={changes} />
          ))}
        </ul>
      )}
      <Papers check={c} opens={may(me, "move")} />
      <Bags bags={c.bags} />
      {met.length > 0 && (
        <section aria-label="Met" className="grid gap-1">
          <h2 className="label-type text-xl">Met: {met.length}</h2>
          <ul>
            {met.map((r) => (
              <Kept key={r.what} r={r} />
            ))}
          </ul>
        </section>
      )}
      {not.length > 0 && (
        <details>
          <summary className="label-type min-h-11 cursor-pointer py-2 text-xl">Not asked: {not.length}</summary>
          <ul className="grid gap-1">
            {not.map((r) => (
              <li key={r.what} className="leading-snug">
                {r.what}: <span className="quiet">{r.why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <Facts me={me} check={c} may={changes} />
      <p className="max-w-2xl leading-snug">
        <b>{c.law}</b>{" "}
        <span className="quiet">What is from memory says so; read the text that holds on your water.</span>{" "}
        <Link className="underline" to="/rules">
          The rules
        </Link>
      </p>
    </Page>
  );
}

type WrongProps = { me: Membership; check: Check; boat?: string; r: Row; may: boolean };

function Wrong({ me, check, boat, r, may: changes }: WrongProps) {
  return (
    <li className="hairline-b grid gap-x-6 gap-y-1 py-3 sm:grid-cols-[13rem_minmax(0,1fr)]" data-rule={r.what}>
      <div>
        <p className="label-type text-xl leading-tight">{capital(r.what)}</p>
        <p className="text-loud">
          <b>{STATUS[r.status]}</b>
          {!r.hold && <span className="quiet"> (caution)</span>}
        </p>
      </div>
      <div className="grid gap-1.5">
        <p className="leading-snug">{r.why}</p>
        <p className="quiet text-sm leading-snug">
          Asked: {r.needs}. {[r.title, ...r.also].join(", ")}; {source(r)}.{r.note && ` ${r.note}`}
        </p>
        {changes && r.settle.length > 0 && (
          <ul aria-label={`What would settle ${r.what}`} className="flex flex-wrap gap-2">
            {r.settle.map((s) => (
              <Settle key={s.said} me={me} trip={check.trip_id} boat={boat} s={s} />
            ))}
          </ul>
        )}
      </div>
    </li>
  );
}

function source(r: Row): string {
  return r.memory ? `${r.source}, from memory` : r.source;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

type SettleProps = { me: Membership; trip: string; boat?: string; s: Schemas["Settle"] };

/** One press does it, or puts it on the packing list or the list of the evening before. */
function Settle({ me, trip, boat = "", s }: SettleProps) {
  const queries = useQueryClient();
  const doing = useMutation({
    mutationFn: async (): Promise<string> => {
      if (s.kind === "move") {
        await writeSafety.move(me.crew_id, boat, s.gear_id ?? "", s.place_id ?? "", s.version ?? 0);
        return "Moved.";
      }
      if (s.kind === "promise") {
        const r = await writeSafety.promise(me.crew_id, trip, [s.gear_id ?? ""]);
        return r.refused[0] ?? "It is on the packing list.";
      }
      await writeSafety.addLine(me.crew_id, { stage: "evening", text: s.text ?? s.said, holds: false, trip_id: trip });
      return "It is on the list of the evening before.";
    },
    onSuccess: () => freshGear(queries),
  });
  return (
    <li className="flex flex-wrap items-center gap-2">
      <button
        type="button"
        className={s.kind === "buy" ? "plain-button text-left leading-tight" : "main-button text-left leading-tight"}
        disabled={doing.isPending || doing.isSuccess}
        onClick={() => doing.mutate()}
      >
        {s.said.replace(/\.$/, "")}
      </button>
      <span role="status" className={doing.error ? "text-loud" : ""}>
        {doing.error ? sayError(doing.error) : doing.data}
      </span>
    </li>
  );
}

function Kept({ r }: { r: Row }) {
  return (
    <li className="hairline-b grid gap-x-6 py-1.5 sm:grid-cols-[13rem_minmax(0,1fr)]" data-rule={r.what}>
      <p className="label-type text-lg leading-tight">{capital(r.what)}</p>
      <div>
        <p className="leading-snug">
          {r.by.length > 0
            ? r.by.map((p) => `${p.name}${p.where ? `, ${p.where}` : ""}${seconds(p)}`).join("; ")
            : r.why}
        </p>
        {r.wear.length > 0 && <p className="text-sm leading-snug">Worn under way by {r.wear.join(", ")}.</p>}
      </div>
    </li>
  );
}

function seconds(p: Schemas["PieceView"]): string {
  return p.seconds === undefined ? "" : `, ${Math.round(p.seconds)} s`;
}

function Papers({ check, opens }: { check: Check; opens: boolean }) {
  if (check.papers.length === 0) return null;
  return (
    <section aria-label="Papers" className="grid gap-1">
      <h2 className="label-type text-xl">Papers this water asks for</h2>
      <ol>
        {check.papers.map((p) => (
          <li key={p.said} className="hairline-b grid gap-x-6 py-1.5 sm:grid-cols-[13rem_minmax(0,1fr)]">
            <p className="leading-tight">
              {p.name}
              {opens && p.photos > 0 && (
                <>
                  {" "}
                  <Link className="underline" to={`/papers#${p.id}`}>
                    picture
                  </Link>
                </>
              )}
            </p>
            <p className={`leading-snug ${p.state === "good" ? "" : "text-loud"}`}>
              {p.state === "good"
                ? [p.of, p.expires_on && `good until ${day(p.expires_on)}`, p.wallet].filter(Boolean).join(", ")
                : p.said}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Bags({ bags }: { bags: Schemas["BagView"][] }) {
  return bags.map((b) => (
    <section key={b.name} aria-label={b.name} className="grid gap-1">
      <h2 className="label-type text-xl">
        {capital(b.name)}
        <span className="quiet">{b.where && `, ${b.where}`}</span>
      </h2>
      <p className="leading-snug">Holds {b.holds.length > 0 ? b.holds.join(", ") : "nothing that is listed"}.</p>
      {b.lacks.length > 0 && <p className="text-loud leading-snug">Missing: {b.lacks.join(", ")}.</p>}
    </section>
  ));
}

const AS_IT_IS = "";

/** What the trip was taken to be, and how to say it otherwise. */
function Facts({ me, check, may: changes }: { me: Membership; check: Check; may: boolean }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.rules.${check.trip_id}`;
  const was = check.rules;
  const [f, setF] = useDraft(`${scope}.facts`, {
    water: was.water ?? AS_IT_IS,
    use: was.use ?? AS_IT_IS,
    night: was.night === undefined ? AS_IT_IS : was.night ? "yes" : "no",
    country: was.country ?? "",
  });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 leading-snug">
        <span className="label-type text-xl">Taken to be</span> <span className="quiet">{check.facts.join(" ")}</span>
      </summary>
      {changes && (
        <SaveForm
          name="What the trip is to the rules"
          draft={scope}
          button="Keep it"
          save={() =>
            writeSafety.tripRules(
              me.crew_id,
              check.trip_id,
              {
                water: (f.water || undefined) as Schemas["TripRules"]["water"],
                use: (f.use || undefined) as Schemas["TripRules"]["use"],
                night: f.night === AS_IT_IS ? undefined : f.night === "yes",
                country: f.country.trim().toUpperCase() || undefined,
              },
              check.version,
            )
          }
          onSaved={() => freshGear(queries)}
        >
          <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            <Choice
              label="Water"
              value={f.water}
              options={[[AS_IT_IS, "as the boat's water"], ...WORDS.carriage_waters]}
              onChange={(water) => put({ water })}
            />
            <Choice
              label="Use"
              value={f.use}
              options={[[AS_IT_IS, "as the kind of trip"], ...WORDS.carriage_uses]}
              onChange={(use) => put({ use })}
            />
            <Choice
              label="By night"
              value={f.night}
              options={[
                [AS_IT_IS, "as the day's hours"],
                ["yes", "some of it"],
                ["no", "none of it"],
              ]}
              onChange={(night) => put({ night })}
            />
            <Loose label="Country, two letters" max={2} value={f.country} onChange={(country) => put({ country })} />
          </div>
        </SaveForm>
      )}
    </details>
  );
}
