import { type UseQueryResult, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { freshGear } from "../../api/ask";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { degrees, unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Checks, Choice, Loose, NumberFields, RemoveButton, SaveForm, TextField } from "../../ui/Form";
import { Tabs } from "../../ui/Tabs";
import { Bears } from "./Bears";
import { FindingList } from "./Findings";
import { Held } from "./Held";
import { type Fields, type FittingInput, type Hand, inputOf, mirrored } from "./handForm";
import { Later } from "./Later";
import { Move } from "./Moving";
import type { Rigging } from "./RiggingPage";

type Props = {
  me: Membership;
  rigging: Rigging;
  fields: Fields;
  hand: Hand;
  more: Hand[]; // that come after it
  tried: UseQueryResult<Schemas["Tried"]> | undefined;
  onChange: (hand: Hand) => void;
  onAside: () => void;
  onAll: () => void;
  onNext: (hands: Hand[]) => void;
};

const PARTS = [
  ["place", "Where"],
  ["held", "How it is held"],
  ["later", "Upkeep"],
] as const;

/** A fitting in hand: what it would be in the way of, what it must bear, and all that is said of it. */
export function InHand(props: Props) {
  const { me, rigging, fields, hand, more, tried, onChange, onAside, onAll, onNext } = props;
  const queries = useQueryClient();
  const [part, setPart] = useState<(typeof PARTS)[number][0]>("place");
  const path = { crew: me.crew_id, boat: rigging.id };
  const mayChange = may(me, "change_boat");
  const now = rigging.fittings.find((f) => f.id === hand.id);
  const save = () =>
    hand.id
      ? api.put("/api/crews/{crew}/boats/{boat}/fittings/{fitting}", {
          params: { path: { ...path, fitting: hand.id } },
          body: { ...inputOf(fields, hand), version: hand.version ?? 0 },
        })
      : api.post("/api/crews/{crew}/boats/{boat}/fittings", {
          params: { path },
          body: { fittings: [inputOf(fields, hand)] },
        });
  const saveAll = () =>
    api.post("/api/crews/{crew}/boats/{boat}/fittings", {
      params: { path },
      body: { fittings: [hand, ...more].map((h) => inputOf(fields, h)) },
    });
  const saved = (hands: Hand[]) => {
    freshGear(queries);
    onNext(hands);
  };
  const set = (change: (f: FittingInput) => unknown) => {
    const chosen = structuredClone(hand.chosen);
    change(chosen);
    onChange({ ...hand, chosen });
  };
  const form = { me, rigging, fields, hand, onChange, set };
  const body = (
    <>
      <div className="flex items-start justify-between gap-2">
        <h1 className="label-type wrap-anywhere text-2xl leading-tight">{hand.chosen.name || "A fitting"}</h1>
        <button type="button" className="plain-button shrink-0" onClick={onAside}>
          Put aside
        </button>
      </div>
      {hand.doubts && hand.doubts.length > 0 && <p className="quiet leading-snug">{hand.doubts.join(" ")}</p>}
      <Verdict tried={tried} />
      <Tabs of="Of the fitting" tabs={PARTS} chosen={part} onChoose={setPart} />
      {part === "place" && <Where {...form} />}
      {part === "held" && (
        <>
          <Held {...form} />
          {tried?.data && <Bears bears={tried.data.bears} sea={rigging.sea} units={unitsOf(me.units)} set={set} />}
        </>
      )}
      {part === "later" && <Later {...form} />}
    </>
  );
  if (!mayChange) return <div className="grid gap-3">{body}</div>;
  return (
    <>
      <SaveForm
        name="Fitting in hand"
        button={hand.id ? "Keep it so" : more.length > 0 ? "Mount it, then the next" : "Mount it here"}
        save={save}
        onSaved={() => saved(more)}
        extra={
          !hand.id &&
          more.length > 0 && <MountAll n={more.length + 1} save={saveAll} onSaved={() => saved([])} onNone={onAll} />
        }
      >
        {body}
      </SaveForm>
      {hand.id && (
        <div className="mt-3 flex flex-wrap gap-2 border-(--hair) border-t pt-3">
          <button type="button" className="plain-button" onClick={() => onNext([mirrored(fields, hand)])}>
            Same on the other side
          </button>
          {now && !now.unit && !now.off && <Move me={me} rigging={rigging} f={now} on={false} text="Take it off her" />}
          <RemoveButton
            text="Take off the list"
            name={hand.chosen.name}
            remove={() =>
              api.delete("/api/crews/{crew}/boats/{boat}/fittings/{fitting}", {
                params: { path: { ...path, fitting: hand.id ?? "" } },
              })
            }
            onRemoved={() => saved([])}
          />
        </div>
      )}
    </>
  );
}

type MountAllProps = { n: number; save: () => Promise<unknown>; onSaved: () => void; onNone: () => void };

/** Mounts all that was read at once, where each was guessed to be. */
function MountAll({ n, save, onSaved, onNone }: MountAllProps) {
  const [error, setError] = useState<string>();
  return (
    <>
      <button
        type="button"
        className="plain-button"
        onClick={() =>
          save()
            .then(onSaved)
            .catch((e) => setError(sayError(e)))
        }
      >
        Mount all {n} as guessed
      </button>
      <button type="button" className="plain-button" onClick={onNone}>
        Put all aside
      </button>
      {error && (
        <span role="alert" className="text-loud">
          {error}
        </span>
      )}
    </>
  );
}

/** What the dry run says: what is in the way first, how she leans with it, who reads it. */
function Verdict({ tried }: { tried: Props["tried"] }) {
  if (!tried) return <p className="quiet">A number is half typed.</p>;
  if (tried.isError)
    return (
      <p role="alert" className="text-loud">
        {sayError(tried.error)}
      </p>
    );
  if (!tried.data) return <p className="quiet">Trying it…</p>;
  const { findings, heel_deg, trim_deg, seen } = tried.data;
  const wrong = findings.filter((f) => !f.note);
  return (
    <div aria-live="polite" aria-busy={tried.isFetching} data-testid="dry-run" className="grid gap-1">
      {wrong.length === 0 && <p className="text-lg leading-snug">Nothing is in its way here.</p>}
      <FindingList list={wrong} loud />
      <FindingList list={findings.filter((f) => f.note)} />
      {(Math.abs(heel_deg) >= 0.05 || Math.abs(trim_deg) >= 0.05) && (
        <p className="quiet">
          {Math.abs(heel_deg) >= 0.05 &&
            `She leans ${degrees(Math.abs(heel_deg))}° more to ${heel_deg > 0 ? "starboard" : "port"}. `}
          {Math.abs(trim_deg) >= 0.05 &&
            `Her bow ${trim_deg > 0 ? "rises" : "sinks"} by ${degrees(Math.abs(trim_deg))}°.`}
        </p>
      )}
      {seen.length > 0 && (
        <p className="quiet leading-snug">
          Read from:{" "}
          {seen
            .filter((s) => s.reads)
            .map((s) => s.post)
            .join(", ") || "nowhere"}
          .
        </p>
      )}
    </div>
  );
}

export type PartProps = {
  me: Membership;
  rigging: Rigging;
  fields: Fields;
  hand: Hand;
  onChange: (hand: Hand) => void;
  set: (change: (f: FittingInput) => unknown) => void;
};

/** Where it stands, how large it is, what it weighs. */
function Where({ rigging, fields, hand, onChange, set }: PartProps) {
  const f = hand.chosen;
  const values = (v: Hand["values"]) => onChange({ ...hand, values: { ...hand.values, ...v } });
  const kind = fields.kind[f.kind] ?? [];
  const counted = [["", "nothing: it is new to her"], ...rigging.masses.map((m) => [m, m] as const)] as const;
  return (
    <div className="grid gap-3">
      <TextField label="Name" value={f.name} onChange={(name) => set((x) => Object.assign(x, { name }))} />
      <Choice
        label="What it is"
        value={f.kind}
        options={WORDS.fitting_kinds}
        onChange={(kind) => set((x) => Object.assign(x, { kind }))}
      />
      <NumberFields fields={fields.where} values={hand.values} onChange={values} narrow />
      <Choice
        label="Fastened by"
        value={f.lies.stands}
        options={WORDS.stands}
        onChange={(stands) => set((x) => Object.assign(x.lies, { stands }))}
      />
      <NumberFields fields={[...fields.turn, ...kind]} values={hand.values} onChange={values} narrow />
      <NumberFields fields={fields.size} values={hand.values} onChange={values} narrow />
      {["display", "control"].includes(f.kind) && (
        <Choice
          label={f.kind === "display" ? "Read from" : "Worked from"}
          value={f.lies.post_id ?? ""}
          options={[["", "the nearest post"], ...rigging.posts.map((q) => [q.id, q.name] as const)]}
          onChange={(id) =>
            set((x) => {
              if (id) x.lies.post_id = id;
              else delete x.lies.post_id;
            })
          }
        />
      )}
      {f.kind === "tie-down" && (
        <Choice
          label="Its strap holds what lies in"
          value={f.lies.straps_place_id ?? ""}
          options={[["", "nothing"], ...rigging.places.map((q) => [q.id, q.name] as const)]}
          onChange={(id) =>
            set((x) => {
              if (id) x.lies.straps_place_id = id;
              else delete x.lies.straps_place_id;
            })
          }
        />
      )}
      <Checks
        all={[["guess", "Nobody measured it yet"]]}
        on={() => f.lies.guess ?? false}
        set={(_, on) => set((x) => Object.assign(x.lies, { guess: on }))}
      />
      <NumberFields fields={fields.mass} values={hand.values} onChange={values} narrow />
      <Choice
        label="The mass is"
        value={f.mass_known}
        options={WORDS.mass_known}
        onChange={(known) => set((x) => Object.assign(x, { mass_known: known }))}
      />
      <Choice
        label="It was counted before in"
        value={f.part_of ?? ""}
        options={counted}
        onChange={(name) => set((x) => Object.assign(x, { part_of: name }))}
      />
      <Loose label="Note" value={f.note ?? ""} max={2000} onChange={(note) => set((x) => Object.assign(x, { note }))} />
    </div>
  );
}
