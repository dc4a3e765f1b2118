import type { Schemas } from "../../api/client";
import { howMany } from "../../domain/howMany";
import type { Rigging } from "./RiggingPage";

type Finding = Schemas["FindingView"];

/** Her name, and how many things are to be seen to. */
export function Summary({ rigging }: { rigging: Rigging }) {
  const wrong = rigging.findings.filter((f) => !f.note).length;
  const n = rigging.fittings.length;
  return (
    <div>
      <h1 className="label-type text-3xl leading-tight">{rigging.name}'s rigging</h1>
      <p className="text-xl leading-snug" data-testid="rigging-summary">
        {n === 0
          ? "Nothing is listed yet. Walk round her with a phone: one line each."
          : wrong === 0
            ? `${howMany(n, "fitting")}; nothing is in the way.`
            : `${howMany(n, "fitting")}; ${wrong === 1 ? "one thing" : `${wrong} things`} to see to.`}
      </p>
    </div>
  );
}

/** What is in whose way, what does not bear; what is only good to know after it. */
export function Findings({ rigging, onTake }: { rigging: Rigging; onTake: (id: string) => void }) {
  const wrong = rigging.findings.filter((f) => !f.note);
  const notes = rigging.findings.filter((f) => f.note);
  return (
    <div className="grid gap-3">
      <FindingList list={wrong} onTake={onTake} loud />
      {notes.length > 0 && (
        <details open={wrong.length < 4}>
          <summary className="label-type min-h-11 cursor-pointer py-2 text-lg">Good to know, {notes.length}</summary>
          <FindingList list={notes} onTake={onTake} />
        </details>
      )}
      {rigging.ahead && <p className="quiet leading-snug">{rigging.ahead}</p>}
    </div>
  );
}

type ListProps = { list: Finding[]; onTake?: (id: string) => void; loud?: boolean };

export function FindingList({ list, onTake, loud }: ListProps) {
  if (list.length === 0) return null;
  return (
    <ul className="grid">
      {list.map((f) => (
        <li
          key={f.kind + f.fitting_id + (f.other_id ?? "")}
          data-kind={f.kind}
          className={`border-l-3 py-1.5 pl-3 leading-snug ${loud ? "border-(--loud-ink)" : "border-(--hair)"}`}
        >
          {onTake ? (
            <button
              type="button"
              className="min-h-11 cursor-pointer text-left leading-snug hover:underline"
              onClick={() => onTake(f.fitting_id)}
            >
              <Said f={f} />
            </button>
          ) : (
            <Said f={f} />
          )}
        </li>
      ))}
    </ul>
  );
}

function Said({ f }: { f: Finding }) {
  return (
    <>
      {f.said}
      {f.helps && <span className="quiet block">{f.helps}</span>}
    </>
  );
}
