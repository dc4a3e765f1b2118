import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ask } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { type Bench, type FloatReport, type Membership, sayError } from "../../api/client";
import { type Units, unitsOf } from "../../domain/units";
import { AttitudePicture } from "../../drawing/AttitudePicture";
import { OverPicture } from "../../drawing/OverPicture";
import { ErrorNote, Waiting } from "../../ui/States";
import { useSettled } from "../../ui/useSettled";
import { RightingArms, rangeSentence } from "./RightingArms";

export default function FloatPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const [wind, setWind] = useState(0);
  const [bilge, setBilge] = useState(0);
  const bench = useQuery(ask.bench(me.crew_id, boat));
  const report = useQuery(askBoat.float(me.crew_id, boat, useSettled(wind, 150), useSettled(bilge, 150)));
  if (bench.isPending || report.isPending) return <Waiting text="Working out how she floats…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  if (report.isError) return <ErrorNote text={sayError(report.error)} onRetry={() => report.refetch()} />;
  const r = report.data;
  const units = unitsOf(me.units);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-100">
      <div className="mx-auto grid max-w-6xl gap-6 p-4 lg:p-6">
        <Headline bench={bench.data} r={r} />
        <Verdicts r={r} units={units} />
        <Section
          title="What she does when people move"
          note="Each picture is computed: how she lies, and where she is lowest."
        >
          <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
            {r.tests.map((t) => (
              <Picture key={t.key} lines={bench.data.lines} t={t} />
            ))}
          </div>
        </Section>
        {r.curves.length > 0 && (
          <Section title="How she rights" note="Trim is free, liquids run to the low side.">
            <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
              <RightingArms curves={r.curves} units={units} />
              <div className="grid gap-2">
                {r.curves.map((c) => (
                  <p key={c.side}>{rangeSentence(c, units)}</p>
                ))}
                <Stiffness r={r} units={units} />
              </div>
            </div>
          </Section>
        )}
        <div className="grid gap-6 lg:grid-cols-2">
          <Wind r={r} wind={wind} onWind={setWind} units={units} />
          <Openings r={r} bilge={bilge} onBilge={setBilge} units={units} />
        </div>
        <Section title="Full of water" note="Her own material, foam and the solid parts of what is aboard carry her.">
          <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
            {r.swamped.map((s) => (
              <Swamped key={s.title} lines={bench.data.lines} s={s} units={units} />
            ))}
          </div>
        </Section>
        <Section title="What her plate would say">
          <p>{r.capacity.applies ? r.capacity.sentence : `No figure: ${r.capacity.why}.`}</p>
        </Section>
        <ul className="quiet border-(--hair) border-t pt-3 text-sm">
          {r.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      </div>
    </main>
  );
}

function Section({ title, note, children }: { title: string; note?: string; children: React.ReactNode }) {
  return (
    <section className="grid content-start gap-3 border-(--hair) border-t pt-3">
      <div>
        <h2 className="label-type text-2xl">{title}</h2>
        {note && <p className="quiet text-sm">{note}</p>}
      </div>
      {children}
    </section>
  );
}

/** The worst thing first, in a sentence. */
function Headline({ bench, r }: { bench: Bench; r: FloatReport }) {
  const broken = r.verdicts.filter((v) => !v.met);
  const failed = r.tests.filter((t) => !t.met);
  const loud = r.now.status !== "afloat" || broken.length > 0 || r.awash.length > 0;
  const text =
    r.now.status === "unstable"
      ? `She won't stay upright: she lolls to ${Math.abs(r.now.attitude?.heel_deg ?? 0).toFixed(1)}°. Take weight down low.`
      : r.now.over
        ? `She turns over: as she is laden ${r.now.why}.`
        : r.now.status === "swamped"
          ? `Water comes in: ${r.now.why ?? "an edge is at or under water"}.`
          : (r.awash[0] ?? broken[0]?.sentence ?? "She sits within what you hold her to.");
  return (
    <div>
      <h1 className="label-type text-3xl">How {bench.name} floats</h1>
      <p className={`text-xl ${loud ? "text-loud" : ""}`} data-testid="headline">
        {text}
      </p>
      {r.now.over && <OverPicture lines={bench.lines} over={r.now.over} label={text} />}
      <p>
        {failed.length > 0
          ? `${failed.length} of ${r.tests.length} crew tests go wrong: ${failed.map((t) => t.title).join("; ")}.`
          : "No crew test swamps her."}{" "}
        <Link className="underline" to="../check" relative="path">
          Check it with a tape
        </Link>
      </p>
    </div>
  );
}

/** How sure a limit is kept, in a word or two. */
function sureness(v: FloatReport["verdicts"][number]): string {
  const kept = v.met ? "kept" : "not kept";
  if (v.words === "sure" || v.words === "broken") return kept;
  return `${kept}, ${Math.round((v.met ? v.sure : 1 - v.sure) * 100)} % likely`;
}

function Verdicts({ r, units }: { r: FloatReport; units: Units }) {
  return (
    <div className="grid gap-x-8 gap-y-2 lg:grid-cols-2" data-testid="verdicts">
      {r.verdicts.map((v) => (
        <div key={v.key} className="flex items-start justify-between gap-3 border-(--hair) border-t pt-2">
          <span>{v.sentence}</span>
          <span
            className={`label-type shrink-0 px-2 py-0.5 text-lg ${v.met ? "border border-(--hair)" : "bg-accent text-accent-content"}`}
          >
            {sureness(v)}
          </span>
        </div>
      ))}
      {r.band.behind.length > 0 && (
        <p className="quiet text-sm lg:col-span-2">
          The ± are from masses that nobody weighed. Weigh first:{" "}
          {r.band.behind
            .map(
              (b) =>
                `${b.name} (± ${units.mass(b.sigma_kg)} ${units.massUnit}, ${units.small(b.m)} ${units.smallUnit} of freeboard)`,
            )
            .join(", ")}
          .
        </p>
      )}
    </div>
  );
}

function Picture({ lines, t }: { lines: Bench["lines"]; t: FloatReport["tests"][number] }) {
  return (
    <figure className="grid content-start border border-(--hair)" data-test={t.key}>
      {t.attitude ? (
        <AttitudePicture lines={lines} attitude={t.attitude} people={t.people} label={`${t.title}: ${t.sentence}`} />
      ) : (
        <div className="quiet grid h-44 place-items-center p-4 text-center">She does not come to rest.</div>
      )}
      <figcaption className="border-(--hair) border-t px-3 py-2">
        <span className="label-type flex flex-wrap items-center justify-between gap-2 text-lg">
          {t.title}
          {!t.met && <span className="bg-accent px-2 text-accent-content text-base">fails</span>}
        </span>
        <span className={t.met ? "" : "text-loud"}>{t.sentence}</span>
      </figcaption>
    </figure>
  );
}

function Stiffness({ r, units }: { r: FloatReport; units: Units }) {
  const moment = (kgm: number) => `${units.mass(kgm / units.lengthSI)} ${units.massUnit}·${units.lengthUnit}`;
  return (
    <p className="quiet text-sm">
      {moment(r.heel_moment_kg_m)} heel her a degree, {moment(r.trim_moment_kg_m)} trim her a degree. GM{" "}
      {units.length(r.gm_solid_m, 2)} {units.lengthUnit}, of which slack liquid takes {units.small(r.free_surface_m)}{" "}
      {units.smallUnit}.
    </p>
  );
}

function Wind({ r, wind, onWind, units }: { r: FloatReport; wind: number; onWind: (w: number) => void; units: Units }) {
  return (
    <Section title="Wind from abeam" note="A steady wind; gusts and waves do more.">
      <ul>
        {r.wind.map((w) => (
          <li key={w.speed_m_s} className="hairline-b flex gap-3 py-1.5">
            <span className="figure-type w-20 shrink-0">{units.wind(w.speed_m_s)}</span>
            <span className={w.met ? "" : "text-loud"}>{w.sentence}</span>
          </li>
        ))}
      </ul>
      <label className="grid gap-1">
        <span className="text-sm">Another wind, {wind ? units.wind(wind) : "none chosen"}</span>
        <input
          type="range"
          className="h-11 w-full accent-current"
          min={0}
          max={40}
          value={wind}
          onChange={(e) => onWind(Number(e.target.value))}
        />
      </label>
    </Section>
  );
}

type OpeningsProps = { r: FloatReport; bilge: number; onBilge: (l: number) => void; units: Units };

function Openings({ r, bilge, onBilge, units }: OpeningsProps) {
  return (
    <Section title="Openings and water inside" note="Heights over the water; water in the bilge lies in her own shape.">
      {r.awash.map((a) => (
        <p key={a} className="text-loud">
          {a}
        </p>
      ))}
      <ul>
        {r.openings.map((o) => (
          <li key={o.name} className="hairline-b flex justify-between gap-3 py-1.5">
            <span>
              {o.name} {o.space && <span className="quiet text-sm">drains the {o.space}</span>}
            </span>
            <span className={`figure-type ${o.m <= 0 ? "text-loud" : ""}`}>
              {units.small(o.m)} {units.smallUnit}
            </span>
          </li>
        ))}
      </ul>
      <label className="grid gap-1">
        <span className="text-sm">
          Water in the bilge, {units.volume(bilge)} {units.volumeUnit}
        </span>
        <input
          type="range"
          className="h-11 w-full accent-current"
          min={0}
          max={200}
          step={5}
          value={bilge}
          onChange={(e) => onBilge(Number(e.target.value))}
        />
      </label>
    </Section>
  );
}

type SwampedProps = { lines: Bench["lines"]; s: FloatReport["swamped"][number]; units: Units };

function Swamped({ lines, s, units }: SwampedProps) {
  return (
    <figure className="grid content-start border border-(--hair)">
      {s.attitude ? (
        <AttitudePicture lines={lines} attitude={s.attitude} label={`${s.title}: ${s.sentence}`} />
      ) : (
        <div className="quiet grid h-44 place-items-center p-4 text-center">
          {s.floats ? "She does not lie upright." : "She goes under."}
        </div>
      )}
      <figcaption className="border-(--hair) border-t px-3 py-2">
        <span className="label-type flex flex-wrap items-center justify-between gap-2 text-lg">
          {s.title}
          {!s.level && <span className="bg-accent px-2 text-accent-content text-base">fails</span>}
        </span>
        <span className={s.level ? "" : "text-loud"}>{s.sentence}</span>
        <span className="quiet block text-sm">
          {units.volume(s.foam_l)} {units.volumeUnit} of foam; {units.mass(Math.abs(s.margin_kg))} {units.massUnit}{" "}
          {s.margin_kg >= 0 ? "to spare" : "too little"}.
        </span>
      </figcaption>
    </figure>
  );
}
