import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { freshGear } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { type Units, unitsOf } from "../../domain/units";
import { Faults } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";
import { useSettled } from "../../ui/useSettled";

const EXAMPLE = {
  metric: "4 tray 36x23x5 1.2kg dry @port bench +Oskar #pike",
  us: "4 tray 14x9x2 2.6lb dry @port bench +Oskar #pike",
};

/** Gear from lines of text: what each was read as is shown before anything is added. */
export function FastAdd({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const units = unitsOf(me.units);
  const [text, setText] = useDraft(`${me.crew_id}.lines.text`, "");
  const asked = useSettled(text, 300);
  const crew = me.crew_id;
  const read = useQuery(askGear.lines(crew, asked));
  const adding = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/gear-lines", {
        params: { path: { crew } },
        body: { text, add: true },
      }),
    onSuccess: () => {
      setText("");
      freshGear(queries);
    },
  });
  const lines = asked.trim() === "" ? [] : (read.data?.lines ?? []);
  const good = lines.filter((l) => !l.bad).length;
  return (
    <form
      aria-label="Add gear from text"
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        adding.mutate();
      }}
    >
      <label className="grid gap-0.5">
        <span className="text-sm">A line for each thing: how many, name, size, mass, @place, +owner, #tag</span>
        <textarea
          className="min-h-11 w-full resize-y border border-(--quiet) bg-base-100 px-3 py-2 text-base leading-snug"
          rows={Math.min(12, Math.max(1, text.split("\n").length))}
          placeholder={EXAMPLE[me.units]}
          maxLength={60000}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            if (!adding.isPending) adding.reset();
          }}
        />
      </label>
      {lines.length > 0 && (
        <ul aria-label="Read as" className="grid gap-x-6 sm:grid-cols-2">
          {lines.map((l, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by where they stand
            <LineRead key={i} line={l} units={units} />
          ))}
        </ul>
      )}
      <Faults
        text={adding.error ? sayError(adding.error) : undefined}
        details={adding.error instanceof Refusal ? adding.error.details : []}
      />
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="submit"
          className="main-button"
          disabled={adding.isPending || good === 0 || good < lines.length || asked !== text}
        >
          {good > 1 ? `Add ${good} entries` : "Add"}
        </button>
        <span role="status" className="quiet">
          {adding.data
            ? said(adding.data)
            : lines.length > good
              ? "A line that makes no piece keeps all from being added."
              : ""}
        </span>
      </div>
    </form>
  );
}

function said(made: Schemas["LinesView"]): string {
  const doubts = made.lines.filter((l) => l.doubts.some((d) => d.includes("quay")));
  const away = doubts.length > 0 ? ` ${doubts.map((l) => `${l.gear.name}: ${l.doubts.at(-1)}`).join(" ")}` : "";
  return `${made.made.length} added.${away}`;
}

function LineRead({ line, units }: { line: Schemas["LineView"]; units: Units }) {
  const g = line.gear;
  if (line.bad)
    return (
      <li className="border-accent border-l-4 py-0.5 pl-2 text-sm">
        <b className="text-loud">Not read:</b> {line.line} <span className="block">{line.doubts.join(" ")}</span>
      </li>
    );
  const about = [
    `${g.size_m.map(units.side).join(" × ")} ${units.sideUnit}`,
    `${units.mass(g.kg, 2)} ${units.massUnit}${g.mass_known === "guess" ? ", a guess" : ""}`,
    g.needs_dry ? "keep dry" : "",
    line.owner ? `${line.owner}'s` : "",
    line.place ? `to ${line.place}` : "to the quay",
    ...(g.tags ?? []).map((t) => `#${t}`),
  ].filter(Boolean);
  return (
    <li
      className={`py-0.5 pl-2 text-sm ${line.doubts.length ? "border-accent border-l-4" : "border-(--hair) border-l-4"}`}
    >
      <b>
        {g.count} × {g.name}
      </b>{" "}
      <span className="figure-type text-base">{about.join(" · ")}</span>
      {line.doubts.map((d) => (
        <span key={d} className="text-loud block leading-tight">
          {d}
        </span>
      ))}
    </li>
  );
}
