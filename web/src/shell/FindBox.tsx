import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { ArrowUpRight, Search } from "lucide-react";
import { useCallback, useEffect, useLayoutEffect, useState } from "react";
import { useNavigate } from "react-router";
import { askGear } from "../api/askGear";
import type { Hit, Membership } from "../api/client";
import { pathOf } from "../domain/paths";
import { MiniPlan } from "../parts/MiniPlan";
import { useSettled } from "../ui/useSettled";

const SORTS = { gear: "", place: "place aboard", shed: "place ashore", person: "person", boat: "boat" };

/** What was typed, and whether with Enter, while the field was still coming. */
export type Begun = { text: string; entered: boolean };

type Props = { me: Membership; begun: { current: Begun }; onClose: () => void };

/** One field from anywhere: what it is called, misspelt or not, and where it lies. */
export default function FindBox({ me, begun, onClose }: Props) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const asked = useSettled(text.trim(), 120);
  const hits = useQuery(askGear.found(me.crew_id, asked));
  const list = hits.data ?? [];
  const [chosen, setChosen] = useState("");
  const current = list.find((h) => h.id === chosen) ?? list[0];
  const go = (hit: Hit) => {
    onClose();
    navigate(pathOf(hit));
  };
  // Enter means what was typed, not what was found for less of it: it waits for the answer.
  const late = asked !== text.trim() || hits.isPending || hits.isPlaceholderData;
  const [entered, setEntered] = useState(false);
  useLayoutEffect(() => {
    setText(begun.current.text); // typed until this very moment
    setEntered(begun.current.entered);
  }, [begun]);
  useEffect(() => {
    if (!entered || late || !hits.data) return;
    setEntered(false);
    const first = hits.data[0];
    if (first) {
      onClose();
      navigate(pathOf(first));
    }
  }, [entered, late, hits.data, onClose, navigate]);
  const show = useCallback((dialog: HTMLDialogElement | null) => {
    if (dialog && !dialog.open) dialog.showModal();
  }, []);
  useEffect(() => setChosen(list[0]?.id ?? ""), [list]);
  return (
    // The browser's own dialog: it keeps the focus, closes by Escape, and needs no style of its own in the page.
    <dialog
      ref={show}
      aria-label="Find"
      onClose={onClose}
      onClick={(e) => e.target === e.currentTarget && onClose()}
      onKeyDown={(e) => e.target === e.currentTarget && e.key === "Escape" && onClose()}
      className="mx-auto mt-0 max-h-dvh w-full max-w-4xl overflow-hidden border border-base-content bg-base-100 p-0 text-base-content backdrop:bg-base-content/25 sm:mt-12 sm:max-h-[80dvh]"
    >
      <Command
        label="Find"
        shouldFilter={false}
        value={chosen}
        onValueChange={setChosen}
        onKeyDown={(e) => {
          if (e.key !== "Enter" || !late) return;
          e.preventDefault(); // what is chosen is of an older answer
          setEntered(true);
        }}
        className="grid max-h-[inherit] grid-rows-[auto_1fr]"
      >
        <div className="flex items-center gap-3 border-b border-base-content px-4">
          <Search size={22} aria-hidden="true" />
          <Command.Input
            value={text}
            onValueChange={(typed) => {
              setEntered(false);
              setText(typed);
            }}
            placeholder="Search gear, places, people and boats"
            className="min-h-14 flex-1 bg-transparent text-xl outline-none!"
            maxLength={200}
          />
          <button type="button" className="label-type min-h-11 cursor-pointer px-2" onClick={onClose}>
            close
          </button>
        </div>
        <div className="grid min-h-0 md:grid-cols-[1fr_20rem]">
          <Command.List className="min-h-0 overflow-y-auto" aria-label="Found">
            {hits.isError && <p className="text-loud px-4 py-3">The server can't be reached.</p>}
            {hits.isSuccess && list.length === 0 && (
              <p className="px-4 py-3">Nothing is called “{asked}”, or nearly so. Try a place, an owner or a tag.</p>
            )}
            {asked === "" && list.length > 0 && <p className="label-type quiet px-4 pt-3">Last used</p>}
            {list.map((h) => (
              <Command.Item
                key={h.id}
                value={h.id}
                onSelect={() => go(h)}
                className="hairline-b flex min-h-13 cursor-pointer items-center justify-between gap-3 px-4 py-1.5 data-[selected=true]:bg-base-200"
              >
                <span className="min-w-0">
                  <span className="block text-lg leading-tight">
                    {h.name}
                    {(h.count ?? 1) > 1 ? ` × ${h.count}` : ""}
                    {h.owner && <span className="label-type quiet"> {h.owner}</span>}
                  </span>
                  <span className="quiet block leading-tight">{h.where ?? SORTS[h.kind]}</span>
                </span>
                <ArrowUpRight size={18} aria-hidden="true" className="quiet shrink-0" />
              </Command.Item>
            ))}
          </Command.List>
          {current?.kind === "gear" && <Closer me={me} hit={current} />}
        </div>
      </Command>
    </dialog>
  );
}

/** The way to what is chosen, in words and on the drawing. */
function Closer({ me, hit }: { me: Membership; hit: Hit }) {
  const where = useQuery(askGear.where(me.crew_id, hit.id));
  return (
    <aside aria-live="polite" className="hidden border-(--hair) border-l bg-base-200 p-4 md:block">
      {where.data && (
        <>
          <p className="text-lg leading-snug">{where.data.sentence}</p>
          <ol className="quiet list-decimal py-2 pl-5">
            {where.data.way.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ol>
          {where.data.spot.boat_id && (
            <MiniPlan
              crew={me.crew_id}
              boat={where.data.spot.boat_id}
              place={where.data.spot.place_id}
              box={where.data.box}
            />
          )}
        </>
      )}
    </aside>
  );
}
