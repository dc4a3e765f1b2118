import { useMutation } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { useDraft } from "../../ui/useDraft";
import type { Rigging } from "./RiggingPage";

type Props = { me: Membership; rigging: Rigging; onRead: (read: Schemas["ReadFitting"][]) => void };

/** Fittings by lines of text, one each, as one says them on a walk round the boat. */
export function EntryLine({ me, rigging, onRead }: Props) {
  const [text, setText] = useDraft(`${me.crew_id}.rigging.${rigging.id}.line`, "");
  const [empty, setEmpty] = useState(false);
  const read = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/boats/{boat}/rigging/lines", {
        params: { path: { crew: me.crew_id, boat: rigging.id } },
        body: { text },
      }),
    onSuccess: (list) => {
      setEmpty(list.length === 0);
      if (list.length === 0) return;
      setText("");
      onRead(list);
    },
  });
  const go = () => text.trim() && read.mutate();
  const keys = (e: KeyboardEvent) => {
    if (e.key !== "Enter" || e.shiftKey) return;
    e.preventDefault();
    go();
  };
  const lines = text.split("\n").filter((l) => l.trim()).length;
  return (
    <form
      aria-label="Add a fitting"
      className="flex flex-wrap items-start gap-2 px-4 pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        go();
      }}
    >
      <textarea
        aria-label="One fitting a line"
        className="input h-auto min-h-11 min-w-0 flex-1 basis-full resize-none overflow-x-hidden whitespace-pre py-2.5 text-base leading-snug sm:basis-0"
        rows={Math.min(Math.max(text.split("\n").length, 1), 6)}
        maxLength={30000}
        placeholder={
          me.units === "us"
            ? "rod holder 15° port @port quarter 1.3 lb 1/4 x 2"
            : "rod holder 15° port @port quarter 0.6 kg M6 x 50"
        }
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={keys}
      />
      <button type="submit" className="main-button" disabled={read.isPending || lines === 0}>
        {lines > 1 ? `Take ${lines} in hand` : "Take in hand"}
      </button>
      <label className="sr-only" htmlFor="usual">
        Or a usual thing
      </label>
      <select
        id="usual"
        className="select min-h-11 w-44 flex-1 text-base sm:flex-none"
        value=""
        onChange={(e) => {
          setText(text.trim() ? `${text.trimEnd()}\n${e.target.value}` : e.target.value);
        }}
      >
        <option value="">Usual things</option>
        {rigging.usual.slice(0, -1).map((u) => (
          <option key={u.name} value={u.name}>
            {u.name}
          </option>
        ))}
      </select>
      {(read.error || empty) && (
        <p role="alert" className="text-loud w-full">
          {read.error ? sayError(read.error) : "There is no fitting in that."}
        </p>
      )}
    </form>
  );
}
