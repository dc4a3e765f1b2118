import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { FlipVertical2, PenLine, Undo2 } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { ask, freshUndo } from "../../api/ask";
import { api, type Bench, type Place, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { BoatDrawing } from "../../drawing/BoatDrawing";
import { Choice, NumberFields, RemoveButton, readOne, SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { Photos } from "./Photos";
import { PlanEditor } from "./PlanEditor";
import { boxOf, draftOf, inputOf, type PlaceDraft, type PlaceInput, placeFields, withBox } from "./placeForm";
import type { StageProps } from "./SetupPage";
import { useSaveBoat } from "./useBoat";

const DRYNESS = WORDS.dryness;

const LIDS = WORDS.lids;
const HINGES = [["", "away from the nearest post"], ...WORDS.hinges] as const;

const FORMS = WORDS.place_forms;

const FLAGS = [
  ["latched", "latched"],
  ["locks", "locks"],
  ["drained", "drained"],
  ["insulated", "insulated"],
] as const;

export function PlacesStage({ me, boat, frame, onDone, choices }: StageProps) {
  const bench = useQuery(ask.bench(me.crew_id, boat.id));
  if (bench.isPending) return <Waiting text="Loading what is due…" />;
  if (bench.isError) return <ErrorNote text={sayError(bench.error)} onRetry={() => bench.refetch()} />;
  return <Editor me={me} boat={boat} frame={frame} onDone={onDone} choices={choices} bench={bench.data} />;
}

type EditorProps = StageProps & { bench: Bench };

/** A place that was typed and not saved, and which it is. */
type Held = { draft?: PlaceDraft; chosen?: string };

function Editor({ me, boat, frame, onDone, choices, bench }: EditorProps) {
  const { layouts } = choices;
  const units = unitsOf(me.units);
  const queries = useQueryClient();
  const saveBoat = useSaveBoat(me, boat);
  const path = { crew: me.crew_id, boat: boat.id };
  const { places } = bench;
  const [held, hold] = useDraft<Held>(`${me.crew_id}.boat.${boat.id}.place.${me.units}.held`, {});
  const [chosen, setChosen] = useState(held.chosen);
  const [drawing, setDrawing] = useState(places.length === 0 && !held.draft);
  const [draft, setDraft] = useState(held.draft);
  const [before, setBefore] = useState<{ id: string; input?: PlaceInput }>(); // to undo the last change; no input: it was added
  const latest = useRef(draft);
  latest.current = draft;
  const nameField = useRef<HTMLDivElement>(null);
  const [born, setBorn] = useState(0); // how many were drawn: each wants its name first
  useEffect(() => {
    if (born > 0) nameField.current?.querySelector("input")?.focus();
  }, [born]);
  const place = places.find((q) => q.id === chosen);
  // What the last save sent, while its place is chosen; of a draft that was kept, something else than that.
  const sent = useRef<unknown>(held.draft && "kept from before");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the draft begins anew with the place and each version of it
  useEffect(() => {
    const movedOn = sent.current !== undefined && latest.current !== sent.current;
    if (place && !movedOn) setDraft(draftOf(units, place)); // else the hand was faster than the server
  }, [place?.id, place?.version]);
  const dirty = draft && (!place || JSON.stringify(draft) !== JSON.stringify(draftOf(units, place)));
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is unsaved is kept on this machine as it changes
  useEffect(() => hold(dirty ? { draft, chosen } : {}), [draft, dirty, chosen]);
  const fresh = () => queries.invalidateQueries({ queryKey: ask.bench(me.crew_id, boat.id).queryKey });

  const put = useMutation({
    mutationFn: async ({ place, input }: { place?: Place; input: PlaceInput }) => {
      const made = await (place
        ? api.put("/api/crews/{crew}/boats/{boat}/places/{place}", {
            params: { path: { ...path, place: place.id } },
            body: { ...input, version: place.version },
          })
        : api.post("/api/crews/{crew}/boats/{boat}/places", { params: { path }, body: input }));
      await fresh();
      return made;
    },
  });
  const save = async () => {
    const d = latest.current;
    if (!d) return;
    sent.current = d;
    const input = inputOf(units, d, places, place?.id);
    const was = place && { id: place.id, input: placeInput(place) };
    const made = await put.mutateAsync({ place, input }).catch((e) => {
      sent.current = "not kept"; // what was typed stays, also when the place is read anew
      throw e;
    });
    setBefore(was ?? { id: made.id });
    if (!place) setChosen(made.id);
    setDrawing(false);
  };
  const again = useRef({ save, busy: false, timer: 0 });
  again.current.save = save;
  again.current.busy = put.isPending;
  useEffect(() => {
    const rest = again.current;
    return () => {
      if (!rest.timer) return;
      clearTimeout(rest.timer); // whoever leaves in haste loses nothing
      rest.save().catch(() => {});
    };
  }, []);
  /** Saves once the hand rests and the last save is through, so that no two carry the same version. */
  const settled = () => {
    clearTimeout(again.current.timer);
    again.current.timer = window.setTimeout(() => {
      again.current.timer = 0;
      if (again.current.busy) settled();
      else again.current.save().catch(() => {}); // the mutation shows what is wrong
    }, 250);
  };
  const remove = (id: string) =>
    api.delete("/api/crews/{crew}/boats/{boat}/places/{place}", { params: { path: { ...path, place: id } } });
  const removed = () => {
    setBefore(undefined);
    sent.current = undefined;
    setChosen(undefined);
    setDraft(undefined);
    freshUndo(queries);
    fresh();
  };
  const takeOff = useMutation({ mutationFn: remove, onSuccess: removed });
  const mirror = useMutation({
    mutationFn: (id: string) =>
      api.post("/api/crews/{crew}/boats/{boat}/places/{place}/mirror", {
        params: { path: { ...path, place: id } },
      }),
    onSuccess: (made) => {
      setBefore({ id: made.id });
      return fresh();
    },
  });
  const layOut = useMutation({
    mutationFn: (layout: string) =>
      api.post("/api/crews/{crew}/boats/{boat}/layout", {
        params: { path },
        body: { layout },
      }),
    onSuccess: () => {
      setDrawing(false);
      freshUndo(queries);
      return fresh();
    },
  });
  const choose = (id: string | undefined) => {
    if (again.current.timer) {
      clearTimeout(again.current.timer); // what was moved last is kept before another is taken up
      again.current.timer = 0;
      save().catch(() => {});
    }
    sent.current = undefined;
    setChosen(id);
    if (!id) setDraft(undefined);
  };
  const undo = () => {
    sent.current = undefined;
    const q = places.find((x) => x.id === before?.id);
    if (!q || !before) return;
    if (before.input) put.mutate({ place: q, input: before.input }, { onSuccess: () => setBefore(undefined) });
    else takeOff.mutate(q.id);
  };
  const begin = () => {
    setTyping(false);
    choose(undefined);
    setDrawing(true);
  };
  /** A new place by its numbers, where no mouse is at hand. */
  const [typing, setTyping] = useState(false); // a place that is typed has its numbers first
  const another = useCallback((b: HTMLButtonElement | null) => b?.focus(), []);
  const type = () => {
    choose(undefined);
    setTyping(true);
    setDrawing(false);
    const fresh = freshDraft(units, places, boat.hull.deck?.sole_m);
    setDraft(withBox(units, fresh, { x: 0.5, y: -0.2, length: 0.4, breadth: 0.4 }));
    setBorn((n) => n + 1);
  };
  /** Back to all places; a draft that is not saved stays in hand, or it would be lost. */
  const back = useRef(() => {});
  back.current = () => {
    if (drawing) setDrawing(false);
    else if (!dirty) choose(undefined);
  };
  useEffect(() => {
    const leave = (e: KeyboardEvent) => e.key === "Escape" && back.current();
    window.addEventListener("keydown", leave);
    return () => window.removeEventListener("keydown", leave);
  }, []);
  const box = draft && boxOf(units, draft);
  const f = placeFields(units);
  const error = put.error ?? takeOff.error ?? mirror.error ?? layOut.error;
  const done = async () => {
    clearTimeout(again.current.timer);
    if (again.current.timer) await again.current.save();
    again.current.timer = 0;
    await saveBoat(boat, "places");
    onDone();
  };
  const doneButton = (
    <button type="button" className="main-button justify-self-start" disabled={Boolean(dirty) && !place} onClick={done}>
      Done: stow her
    </button>
  );
  const crossed = draft ? crossing(units, draft, places, place?.id) : [];
  return frame(
    <>
      <div className="flex flex-wrap items-center gap-2 px-4 pt-3">
        <button
          type="button"
          className={`${drawing ? "main-button" : "plain-button"} flex items-center gap-1.5`}
          aria-pressed={drawing}
          onClick={() => (drawing ? setDrawing(false) : begin())}
        >
          <PenLine size={16} aria-hidden="true" /> {drawing ? "Leave drawing" : "Draw a place"}
        </button>
        <button type="button" className="plain-button" onClick={type}>
          Type a place
        </button>
        <button
          type="button"
          className="plain-button flex items-center gap-1.5"
          disabled={!place || mirror.isPending}
          onClick={() => place && mirror.mutate(place.id)}
        >
          <FlipVertical2 size={16} aria-hidden="true" /> Copy to the other side
        </button>
        <button
          type="button"
          className="plain-button flex items-center gap-1.5"
          disabled={!before || put.isPending || takeOff.isPending}
          onClick={undo}
        >
          <Undo2 size={16} aria-hidden="true" /> Undo
        </button>
        <span className="quiet basis-full text-sm">
          {drawing
            ? "Drag over the plan, from corner to corner. Escape leaves."
            : "Press a place, then drag it or its corners. Arrow keys work too."}
        </span>
      </div>
      {error && (
        <p role="alert" className="text-loud px-4">
          {sayError(error)}
        </p>
      )}
      <BoatDrawing
        lines={bench.lines}
        name={boat.name}
        upright
        attitude={bench.state.now.attitude}
        solids={places.map((q) => ({
          name: q.name,
          unnamed: true,
          corner: q.corner_m,
          size: q.size_m,
          quiet: q.id !== chosen,
        }))}
      >
        {(p, hull) => (
          <PlanEditor
            p={p}
            hull={hull}
            places={places}
            chosen={chosen}
            box={box}
            drawing={drawing}
            onChoose={(id) => {
              setTyping(false);
              choose(id);
            }}
            onDrawn={(drawn) => {
              choose(undefined);
              setDraft(withBox(units, freshDraft(units, places, boat.hull.deck?.sole_m), drawn));
              setDrawing(false);
              setBorn((n) => n + 1);
            }}
            onBox={(change) => {
              const at = latest.current && boxOf(units, latest.current);
              if (!latest.current || !at) return;
              latest.current = withBox(units, latest.current, change(at));
              setDraft(latest.current);
            }}
            onSettled={() => place && settled()}
          />
        )}
      </BoatDrawing>
    </>,
    <div className="grid gap-4">
      {draft ? (
        <SaveForm
          key={chosen ?? "new"}
          name={place ? `Change ${place.name}` : "A new place"}
          button={place ? "Save" : "Add the place"}
          save={save}
          extra={
            place && (
              <RemoveButton text="Remove" name={place.name} remove={() => remove(place.id)} onRemoved={removed} />
            )
          }
        >
          <div className="flex items-baseline justify-between gap-2">
            <h2 className="label-type text-xl">{place ? place.name : "A new place"}</h2>
            <button
              type="button"
              className="plain-button"
              onClick={() => {
                setTyping(false);
                choose(undefined);
              }}
            >
              {dirty ? "Cancel" : "All places"}
            </button>
          </div>
          {place?.parent_id && (
            <p className="quiet text-sm">Stands in {places.find((q) => q.id === place.parent_id)?.name}.</p>
          )}
          {place && place.leaves_hull_by_m > 0.001 && (
            <p className="text-loud">
              It stands out of the hull by {units.side(place.leaves_hull_by_m)} {units.sideUnit} {place.leaves_hull}.
            </p>
          )}
          {crossed.length > 0 && (
            <p className="text-loud" role="status">
              It takes up the same space as {crossed.map((q) => q.name).join(" and ")}.
            </p>
          )}
          {typing && place && (
            <button ref={another} type="button" className="plain-button justify-self-start" onClick={type}>
              Type another place
            </button>
          )}
          <div ref={nameField}>
            <TextField label="Name" value={draft.name} onChange={(name) => setDraft({ ...draft, name })} />
          </div>
          <NumberFields
            fields={typing ? [...f.main, ...f.plan] : f.main}
            values={draft.values}
            onChange={(values) => setDraft({ ...draft, values })}
            narrow
          />
          <div className="grid grid-cols-2 gap-4">
            <Choice
              label="Water"
              value={draft.dryness}
              options={DRYNESS}
              onChange={(dryness) => setDraft({ ...draft, dryness })}
            />
            <Choice label="Lid" value={draft.lid} options={LIDS} onChange={(lid) => setDraft({ ...draft, lid })} />
            {draft.lid === "hinged" && (
              <Choice
                label="It turns"
                value={draft.hinge}
                options={HINGES}
                onChange={(hinge) => setDraft({ ...draft, hinge })}
              />
            )}
          </div>
          <div className="grid grid-cols-2">
            {FLAGS.map(([key, label]) => (
              <label key={key} className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox"
                  checked={draft[key]}
                  onChange={(e) => setDraft({ ...draft, [key]: e.target.checked })}
                />
                {label}
              </label>
            ))}
          </div>
          <Choice
            label="It takes"
            value={draft.form}
            options={FORMS}
            onChange={(form) => setDraft({ ...draft, form })}
          />
          {(draft.form === "tubes" || draft.form === "upright") && (
            <NumberFields
              fields={draft.form === "tubes" ? f.rods : f.rods.slice(0, 1)}
              values={draft.values}
              onChange={(values) => setDraft({ ...draft, values })}
              narrow
            />
          )}
          <div className="grid grid-cols-2 gap-4">
            <Choice
              label="Kept for"
              value={draft.keptFor}
              options={[["", "everyone"], ...bench.members.map((m) => [m.id, m.name] as const)]}
              onChange={(keptFor) => setDraft({ ...draft, keptFor })}
            />
            <label className="grid content-start gap-0.5">
              <span className="text-sm leading-tight">Only what is tagged</span>
              <input
                className="input min-h-11 w-full text-base"
                maxLength={40}
                placeholder="such as guest"
                value={draft.keptTag}
                onChange={(e) => setDraft({ ...draft, keptTag: e.target.value })}
              />
            </label>
          </div>
          <NumberFields
            fields={typing ? f.more : [...f.plan, ...f.more]}
            values={draft.values}
            onChange={(values) => setDraft({ ...draft, values })}
            narrow
          />
        </SaveForm>
      ) : (
        <PlaceList places={places} onChoose={choose} />
      )}
      {draft && (
        <>
          {doneButton}
          <PlaceList places={places.filter((q) => q.id !== chosen)} onChoose={choose} title="Other places" />
        </>
      )}
      {place && <Photos me={me} boat={boat.id} place={place.id} />}
      {!draft && (
        <>
          <Photos me={me} boat={boat.id} />
          <div className="grid gap-2 border-(--hair) border-t pt-3">
            <h2 className="label-type text-xl">Begin from a usual layout</h2>
            <p className="quiet text-sm">
              Drawn in to fit her hull; put the measures right afterwards. It adds to what is there.
            </p>
            {layouts.map((l) => (
              <button
                key={l.name}
                type="button"
                className="plain-button justify-self-start text-left"
                disabled={layOut.isPending}
                onClick={() => layOut.mutate(l.name)}
              >
                {l.title}, {howMany(l.places.length, "place")}
              </button>
            ))}
            <button type="button" className="plain-button justify-self-start" onClick={type}>
              Type one more place
            </button>
          </div>
          {doneButton}
        </>
      )}
    </div>,
  );
}

/** The places that a draft takes space from; one that stands wholly in another, or holds it, does not. */
function crossing(units: ReturnType<typeof unitsOf>, d: PlaceDraft, places: Place[], self?: string): Place[] {
  const plan = boxOf(units, d);
  const [z, height] = placeFields(units).main.map((f) => readOne(f, d.values[f.key] ?? ""));
  if (!plan || z === undefined || height === undefined) return [];
  const mine = [
    [plan.x, plan.x + plan.length],
    [plan.y, plan.y + plan.breadth],
    [z, z + height],
  ] as const;
  const touch = 0.005; // metres that walls may overlap
  return places.filter((q) => {
    const theirs = [0, 1, 2].map((k) => [q.corner_m[k] ?? 0, (q.corner_m[k] ?? 0) + (q.size_m[k] ?? 0)] as const);
    const meets = mine.every(
      ([low, high], k) => low < (theirs[k]?.[1] ?? 0) - touch && high > (theirs[k]?.[0] ?? 0) + touch,
    );
    const inIt = mine.every(
      ([low, high], k) => low >= (theirs[k]?.[0] ?? 0) - 1e-4 && high <= (theirs[k]?.[1] ?? 0) + 1e-4,
    );
    const holds = mine.every(
      ([low, high], k) => low <= (theirs[k]?.[0] ?? 0) + 1e-4 && high >= (theirs[k]?.[1] ?? 0) - 1e-4,
    );
    return q.id !== self && meets && !inIt && !holds;
  });
}

function placeInput(q: Place): PlaceInput {
  const { id: _, version: __, level: ___, leaves_hull: ____, leaves_hull_by_m: _____, ...input } = q;
  return input;
}

/** A new place begins with the floor and height of the last one, since neighbours share them. */
function freshDraft(units: ReturnType<typeof unitsOf>, places: Place[], sole = 0.25): PlaceDraft {
  const last = [...places].sort((a, b) => (a.id < b.id ? 1 : -1))[0];
  return draftOf(units, {
    name: "",
    corner_m: [0, 0, last?.corner_m[2] ?? sole],
    size_m: [0.1, 0.1, last?.size_m[2] ?? 0.3],
    opening_m: [0, 0],
    dryness: last?.dryness ?? "dry",
    max_kg: 0,
    lid: "hinged",
    latched: true,
  });
}

function PlaceList({
  places,
  onChoose,
  title = "Places",
}: {
  places: Place[];
  onChoose: (id: string) => void;
  title?: string;
}) {
  return (
    <section aria-label={title}>
      <h2 className="label-type text-xl">
        {title}, {places.length}
      </h2>
      {places.length === 0 && (
        <p className="quiet">None yet. Draw the first over the plan, or begin from a usual layout.</p>
      )}
      <ul>
        {places.map((q) => (
          <li key={q.id} className="hairline-b">
            <button
              type="button"
              className="flex min-h-11 w-full cursor-pointer items-center justify-between gap-2 text-left hover:underline"
              onClick={() => onChoose(q.id)}
            >
              <span>
                {q.parent_id && "↳ "}
                {q.name}
              </span>
              {q.leaves_hull_by_m > 0.001 && <span className="text-loud text-sm">stands out of the hull</span>}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
