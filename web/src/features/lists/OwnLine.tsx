import { useQueryClient } from "@tanstack/react-query";
import { freshGear, freshUndo } from "../../api/ask";
import { writeSafety } from "../../api/askSafety";
import type { Membership } from "../../api/client";
import { Checks, Choice, Loose, RemoveButton, SaveForm, TextField } from "../../ui/Form";
import { useDraft } from "../../ui/useDraft";
import type { Line, Lists, Stage } from "./useLists";

type Props = { me: Membership; lists: Lists; stage: Stage["stage"]; line?: Line; onDone?: () => void };

type Scope = "always" | "boat" | "trip";

/** A line of the crew's own: a new one, or one to be changed. */
export function OwnLine({ me, lists, stage, line, onDone }: Props) {
  const queries = useQueryClient();
  const draft = `${me.crew_id}.line.${line?.own_id ?? `${lists.trip_id}.${stage}`}`;
  const [f, setF] = useDraft(`${draft}.line`, {
    text: line?.text ?? "",
    holds: line?.holds ?? false,
    sort: String(line?.sort ?? 0),
    scope: (line?.this_trip ? "trip" : line?.this_boat ? "boat" : "always") as Scope,
  });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  const body = () => ({
    stage,
    text: f.text,
    holds: f.holds,
    sort: Math.round(Number(f.sort)) || 0,
    trip_id: f.scope === "trip" ? lists.trip_id : undefined,
    boat_id: f.scope === "boat" ? lists.boat_id : undefined,
  });
  return (
    <SaveForm
      name={line ? `Change: ${line.text}` : "A line of your own"}
      draft={draft}
      button={line ? "Keep it" : "Add the line"}
      save={() =>
        line?.own_id
          ? writeSafety.changeLine(me.crew_id, line.own_id, body(), line.version ?? 0)
          : writeSafety.addLine(me.crew_id, body())
      }
      onSaved={() => {
        if (!line) put({ text: "", holds: false });
        freshGear(queries);
        onDone?.();
      }}
      extra={
        line?.own_id && (
          <RemoveButton
            text="Remove"
            name={line.text}
            remove={() => writeSafety.noLine(me.crew_id, line.own_id ?? "")}
            onRemoved={() => {
              freshGear(queries);
              freshUndo(queries);
            }}
          />
        )
      }
    >
      <div className="grid gap-x-4 gap-y-2 sm:grid-cols-[minmax(0,1fr)_11rem_5rem]">
        <TextField
          label={line ? "Line" : "A line of your own"}
          max={200}
          value={f.text}
          onChange={(text) => put({ text })}
        />
        <Choice
          label="On the list"
          value={f.scope}
          options={[
            ["always", "always"],
            ["boat", `with ${lists.boat ?? "this boat"}`],
            ["trip", "on this trip"],
          ]}
          onChange={(scope) => put({ scope })}
        />
        <Loose label="Order" value={f.sort} unit="" onChange={(sort) => put({ sort })} />
      </div>
      <Checks
        all={[["holds", "It holds: not ready until it is done"]]}
        on={() => f.holds}
        set={(_, holds) => put({ holds })}
      />
    </SaveForm>
  );
}
