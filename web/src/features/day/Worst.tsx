import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { howMany } from "../../domain/howMany";
import type { Answer, Reading } from "./moments";

type Remedy = Schemas["Remedy"];
type Props = {
  answer: Answer;
  boat?: string;
  remedies: Schemas["Remedies"] | undefined;
  busy: boolean;
  onAt: (moment: number) => void;
  onDo?: (r: Remedy) => void;
};

/** What is wrong with the day, why, and what would help; then what holds. */
export function Worst({ answer, boat, remedies, busy, onAt, onDo }: Props) {
  const wrong = answer.readings.filter((r) => !r.kept);
  const kept = answer.readings.filter((r) => r.kept);
  return (
    <div className="grid gap-4">
      {wrong.map((r) => (
        <section key={r.key} aria-label={r.sentence} className="grid gap-1 border-(--hair) border-b pb-4">
          <button type="button" className="cursor-pointer text-left" onClick={() => onAt(r.moment)}>
            <span className="text-loud label-type block text-xl leading-tight">{heading(r)}</span>
            <span className="block leading-snug">{r.sentence}</span>
          </button>
          <p className="quiet text-sm leading-snug">Held to {r.limit}.</p>
          {r.because.length > 0 && (
            <ul className="text-sm leading-snug">
              {r.because.map((b) => (
                <li key={b}>{b}</li>
              ))}
            </ul>
          )}
          <Helps list={(remedies?.list ?? []).filter((x) => x.for === r.key)} boat={boat} onDo={onDo} />
        </section>
      ))}
      {wrong.length > 0 && (
        <p role="status" className="quiet text-sm">
          {busy
            ? "Trying what would help…"
            : remedies &&
              (remedies.tried === 0
                ? "There is no single change to try."
                : `${howMany(remedies.tried, "single change was", "single changes were")} tried through the whole day.`)}
        </p>
      )}
      {remedies?.together && <p className="leading-snug">{remedies.together}</p>}
      <section aria-label="What holds" className="grid gap-1">
        <h2 className="label-type text-lg">Holds all day</h2>
        <ul className="grid gap-1">
          {kept.map((r) => (
            <li key={r.key} className="leading-snug">
              <button
                type="button"
                className="min-h-6 cursor-pointer text-left hover:underline"
                onClick={() => onAt(r.moment)}
              >
                {r.sentence}
              </button>{" "}
              <span className="quiet text-sm">
                {r.limit}
                {r.certain && r.certain !== "sure" ? `; ${CERTAIN[r.certain]}` : ""}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Not checked" className="grid gap-1">
        <h2 className="label-type text-lg">Not checked</h2>
        <ul className="quiet grid gap-0.5 text-sm leading-snug">
          {answer.unchecked.map((u) => (
            <li key={u}>{u}</li>
          ))}
        </ul>
      </section>
    </div>
  );
}

export const CERTAIN: Record<string, string> = {
  sure: "sure",
  likely: "likely to hold",
  open: "may hold or not: some masses are guesses",
  unlikely: "unlikely to hold",
  broken: "does not hold",
};

const HEADINGS: Record<string, string> = {
  swamps: "She does not float safely clear of the water",
  awash: "A scupper goes under",
  freeboard: "Too low",
  heel: "Leans too far",
  bow_down: "Down by the bow",
  stern_down: "Down by the stern",
  plate: "Over the plate",
  fuel: "Fuel eats its reserve",
  ice: "The ice runs out",
  power: "A battery runs down",
  start: "Her engine does not start",
  well: "Too many fish for the livewell",
  dark: "Back after dark",
};

function heading(r: Reading): string {
  return HEADINGS[r.key] ?? r.key;
}

function Helps({ list, boat, onDo }: { list: Remedy[]; boat?: string; onDo?: (r: Remedy) => void }) {
  if (list.length === 0) return null;
  return (
    <ul aria-label="What would help" className="mt-1 grid">
      {list.map((r) => (
        <li key={r.say} className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 py-1.5">
          <span>
            <span className="block font-bold text-sm leading-snug">{r.say}</span>
            <span className="quiet block text-sm leading-snug">
              {r.effect.join(", ")}
              {r.holds && <b>: every limit holds</b>}
            </span>
          </span>
          {r.wire ? (
            <Link className="plain-button grid place-items-center" to={`/boats/${boat}/power?at=${r.wire}`}>
              Show it
            </Link>
          ) : (
            onDo && (
              <button type="button" className="plain-button" aria-label={`Do: ${r.say}`} onClick={() => onDo(r)}>
                Do
              </button>
            )
          )}
        </li>
      ))}
    </ul>
  );
}
