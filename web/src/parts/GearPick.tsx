import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { askGear } from "../api/askGear";
import type { Hit, Membership } from "../api/client";
import { useSettled } from "../ui/useSettled";

type Props = {
  me: Membership;
  label: string;
  placeholder: string;
  onPick: (hit: Hit) => void;
  tags?: string[];
  onTag?: (tag: string) => void;
};

/** Picks a piece of gear, or a tag, by typing a part of its name. */
export function GearPick({ me, label, placeholder, onPick, tags = [], onTag }: Props) {
  const [text, setText] = useState("");
  const asked = useSettled(text.trim(), 150);
  const hits = useQuery(askGear.found(me.crew_id, asked));
  const begun = asked.toLowerCase().replace(/^#/, "");
  const pick = (act: () => void) => () => {
    act();
    setText("");
  };
  return (
    <>
      <input
        aria-label={label}
        className="input min-h-11 w-40 flex-1 text-base"
        placeholder={placeholder}
        value={text}
        maxLength={80}
        onChange={(e) => setText(e.target.value)}
      />
      {text.trim() && asked && (
        <span className="flex w-full flex-wrap gap-1">
          {onTag &&
            tags
              .filter((t) => t.startsWith(begun))
              .slice(0, 4)
              .map((t) => (
                <button key={t} type="button" className="plain-button" onClick={pick(() => onTag(t))}>
                  any #{t}
                </button>
              ))}
          {(hits.data ?? [])
            .filter((h) => h.kind === "gear")
            .slice(0, 5)
            .map((h) => (
              <button key={h.id} type="button" className="plain-button" onClick={pick(() => onPick(h))}>
                {h.name}
              </button>
            ))}
        </span>
      )}
    </>
  );
}
