import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { freshGear } from "../../api/ask";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { Checks, Loose, RemoveButton, SaveForm } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";
import type { FittingView } from "./handForm";
import type { Rigging } from "./RiggingPage";

type Props = { me: Membership; rigging: Rigging };

/** What comes off: units and their bases, sets that go on as one, what is taken off when she is left. */
export function Moving({ me, rigging }: Props) {
  const mayMove = may(me, "change_gear");
  const bases = rigging.fittings.filter((f) => f.dock && !f.unit);
  const units = [...rigging.fittings, ...rigging.off].filter((f) => f.unit);
  const off = rigging.off.filter((f) => !f.unit);
  return (
    <div className="grid gap-5">
      {(units.length > 0 || off.length > 0) && (
        <section aria-label="What comes off" className="grid gap-1">
          <h2 className="label-type text-xl">What comes off</h2>
          <ul>
            {units.map((f) => (
              <Unit key={f.id} me={me} rigging={rigging} f={f} bases={bases} mayMove={mayMove} />
            ))}
            {off.map((f) => (
              <li key={f.id} className="hairline-b flex min-h-12 items-center justify-between gap-2">
                <span>
                  {f.name} <span className="quiet">is off</span>
                </span>
                {mayMove && <Move me={me} rigging={rigging} f={f} on text="Put on" />}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Left me={me} rigging={rigging} mayMove={mayMove} />
      <Sets me={me} rigging={rigging} mayMove={mayMove} />
    </div>
  );
}

function useMove(me: Membership, rigging: Rigging) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (m: { f: FittingView; base?: string; on: boolean }) =>
      api.post("/api/crews/{crew}/boats/{boat}/fittings/{fitting}/dock", {
        params: { path: { crew: me.crew_id, boat: rigging.id, fitting: m.f.id } },
        body: { base_id: m.base, on: m.on, version: m.f.version },
      }),
    onSettled: () => freshGear(queries),
  });
}

function Wrong({ error }: { error: unknown }) {
  return error ? (
    <p role="alert" className="text-loud w-full">
      {sayError(error)}
    </p>
  ) : null;
}

type UnitProps = Props & { f: FittingView; bases: FittingView[]; mayMove: boolean };

/** A unit, where it is, and the bases it may go to. */
function Unit({ me, rigging, f, bases, mayMove }: UnitProps) {
  const move = useMove(me, rigging);
  const same = (b: FittingView) => b.dock?.trim().toLowerCase() === f.dock?.trim().toLowerCase();
  const at = rigging.fittings.find((b) => b.id === f.base_id);
  const where = f.boat ? `on ${f.boat}` : f.off ? "ashore" : at ? `in ${at.name}` : "aboard, in no base";
  return (
    <li className="hairline-b flex flex-wrap items-center justify-between gap-2 py-1">
      <span>
        {f.name} <span className="quiet">{where}</span>
      </span>
      {mayMove && (
        <span className="flex flex-wrap gap-2">
          {bases
            .filter((b) => same(b) && b.id !== f.base_id)
            .map((b) => (
              <button
                key={b.id}
                type="button"
                className="plain-button"
                disabled={move.isPending}
                onClick={() => move.mutate({ f, base: b.id, on: true })}
              >
                To {b.name}
              </button>
            ))}
          {!f.off && !f.boat && (
            <button
              type="button"
              className="plain-button"
              disabled={move.isPending}
              onClick={() => move.mutate({ f, on: false })}
            >
              Ashore
            </button>
          )}
        </span>
      )}
      <Wrong error={move.error} />
    </li>
  );
}

/** Puts a fitting on, or takes it off. */
export function Move({ me, rigging, f, on, text }: Props & { f: FittingView; on: boolean; text: string }) {
  const move = useMove(me, rigging);
  return (
    <>
      <button
        type="button"
        className="plain-button"
        disabled={move.isPending}
        aria-label={`${text}: ${f.name}`}
        onClick={() => move.mutate({ f, on })}
      >
        {text}
      </button>
      <Wrong error={move.error} />
    </>
  );
}

function Steps({ steps }: { steps: Schemas["StepView"][] }) {
  return (
    <ol className="list-decimal pl-6">
      {steps.map((s) => (
        <li key={s.fitting_id} className="leading-snug">
          {s.said} <span className="quiet figure-type">{s.minutes.toFixed(0)} min</span>
        </li>
      ))}
    </ol>
  );
}

function Left({ me, rigging, mayMove }: Props & { mayMove: boolean }) {
  const queries = useQueryClient();
  const leave = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/boats/{boat}/rigging/leave", {
        params: { path: { crew: me.crew_id, boat: rigging.id } },
      }),
    onSettled: () => freshGear(queries),
  });
  const { steps, minutes } = rigging.left;
  if (steps.length === 0) return null;
  return (
    <section aria-label="When she is left alone" className="grid gap-1">
      <h2 className="label-type text-xl">When she is left alone, {minutes.toFixed(0)} min</h2>
      <Steps steps={steps} />
      {mayMove && (
        <button
          type="button"
          className="plain-button mt-2 justify-self-start"
          disabled={leave.isPending}
          onClick={() => leave.mutate()}
        >
          All of it is off
        </button>
      )}
      <Wrong error={leave.error} />
    </section>
  );
}

function Sets({ me, rigging, mayMove }: Props & { mayMove: boolean }) {
  const [making, setMaking] = useState(false);
  const mayChange = may(me, "change_boat");
  return (
    <section aria-label="Sets" className="grid gap-2">
      <h2 className="label-type text-xl">Sets that go on as one</h2>
      {rigging.sets.length === 0 && !making && (
        <p className="quiet leading-snug">
          For a lake, for the sea, for the ice: what one has on and another has not comes off.
        </p>
      )}
      {rigging.sets.map((s) => (
        <One key={s.id} me={me} rigging={rigging} s={s} mayMove={mayMove} mayChange={mayChange} />
      ))}
      {mayChange &&
        (making ? (
          <NewSet me={me} rigging={rigging} onDone={() => setMaking(false)} />
        ) : (
          <button type="button" className="plain-button justify-self-start" onClick={() => setMaking(true)}>
            Keep a set
          </button>
        ))}
    </section>
  );
}

type OneProps = Props & { s: Schemas["SetView"]; mayMove: boolean; mayChange: boolean };

function One({ me, rigging, s, mayMove, mayChange }: OneProps) {
  const queries = useQueryClient();
  const path = { crew: me.crew_id, boat: rigging.id, set: s.id };
  const put = useMutation({
    mutationFn: () => api.post("/api/crews/{crew}/boats/{boat}/rig-sets/{set}/put-on", { params: { path } }),
    onSettled: () => freshGear(queries),
  });
  return (
    <article className="border border-(--hair) bg-base-100 p-3" data-set={s.name}>
      <div className="flex items-center justify-between gap-2">
        <h3 className="label-type text-lg">{s.name}</h3>
        <span className="quiet">{s.on ? "She is rigged so." : `${s.minutes.toFixed(0)} min to rig`}</span>
      </div>
      <Steps steps={s.steps} />
      <div className="mt-2 flex flex-wrap gap-2">
        {mayMove && !s.on && (
          <button type="button" className="main-button" disabled={put.isPending} onClick={() => put.mutate()}>
            It is done
          </button>
        )}
        {mayChange && (
          <RemoveButton
            text="Remove"
            name={`the set ${s.name}`}
            remove={() => api.delete("/api/crews/{crew}/boats/{boat}/rig-sets/{set}", { params: { path } })}
            onRemoved={() => freshGear(queries)}
          />
        )}
      </div>
      <Wrong error={put.error} />
    </article>
  );
}

/** A set of what is chosen; units go where they are docked now. */
function NewSet({ me, rigging, onDone }: Props & { onDone: () => void }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.rigset.${rigging.id}`;
  const [name, setName] = useDraft(`${scope}.name`, "");
  const [chosen, setChosen] = useDraft<string[]>(`${scope}.chosen`, []);
  const all = [...rigging.fittings, ...rigging.off.filter((f) => !f.unit)];
  return (
    <SaveForm
      name="A new set"
      draft={scope}
      button="Keep the set"
      save={() =>
        api.post("/api/crews/{crew}/boats/{boat}/rig-sets", {
          params: { path: { crew: me.crew_id, boat: rigging.id } },
          body: {
            name,
            lines: all
              .filter((f) => chosen.includes(f.id))
              .map((f) => ({ fitting_id: f.id, ...(f.unit && f.base_id ? { base_id: f.base_id } : {}) })),
          },
        })
      }
      onSaved={() => {
        freshGear(queries);
        onDone();
      }}
      extra={
        <button type="button" className="plain-button" onClick={onDone}>
          Leave it
        </button>
      }
    >
      <Loose label="Name: lake, sea, ice" value={name} required onChange={setName} />
      <Checks
        all={all.map((f) => [f.id, f.name] as const)}
        on={(id) => chosen.includes(id)}
        set={(id, on) => setChosen(on ? [...chosen, id] : chosen.filter((x) => x !== id))}
      />
    </SaveForm>
  );
}
