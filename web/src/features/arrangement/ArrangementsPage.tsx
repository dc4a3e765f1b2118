import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask, freshGear } from "../../api/ask";
import { askBoat } from "../../api/askBoat";
import { api, type Membership, type Schemas, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { Page, SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";

export type Arrangement = Schemas["ArrangementView"];

/** How a boat was stowed, kept under names to come back to. */
export default function ArrangementsPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const name = useQuery(ask.bench(me.crew_id, boat)).data?.name;
  const list = useQuery(askBoat.arrangements(me.crew_id, boat));
  if (list.isPending) return <Waiting text="Loading the arrangements…" />;
  if (list.isError) return <ErrorNote text={sayError(list.error)} onRetry={() => list.refetch()} />;
  return (
    <Page
      title={`${name ?? "Her"}'s arrangements`}
      intro="How she was stowed, kept under a name to come back to. Things of a season that come and go together are chosen on the gear page."
    >
      {may(me, "move") && <Keep me={me} boat={boat} />}
      {list.data.length === 0 && (
        <p className="quiet">None is kept yet. Stow her, and give it a name such as “pike, two aboard”.</p>
      )}
      <ul className="grid gap-3 sm:grid-cols-2">
        {list.data.map((a) => (
          <li key={a.id}>
            <Link
              to={`/boats/${boat}/arrangements/${a.id}`}
              className="grid min-h-24 min-w-0 content-center gap-0.5 border border-(--hair) px-3 py-2 hover:bg-base-200"
            >
              <span className="label-type wrap-anywhere text-2xl leading-tight">{a.name}</span>
              <span>{liesWords(a)}</span>
              <span className="quiet text-sm leading-tight">
                {a.whole ? "all that was aboard" : "only these things"}, kept by {a.saved_by},{" "}
                {day(a.saved_at.slice(0, 10))}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
}

/** How far she is from it, in a line. */
export function liesWords(a: Arrangement): string {
  const things = howMany(a.things, "thing");
  if (a.lie === a.things) return a.things === 1 ? "1 thing, which lies so now" : `${things}, all lie so now`;
  const astray = a.astray.slice(0, 3).map((s) => `${s.count} ${spotWords(s.where)}`);
  const more = a.astray.length > 3 ? " and elsewhere" : "";
  return `${things}, ${a.lie === 0 ? "none lies" : `${a.lie} ${a.lie === 1 ? "lies" : "lie"}`} so now: ${astray.join("; ")}${more}`;
}

function spotWords(where: string): string {
  if (where === "the quay") return "on the quay";
  return /^(with|lent) /.test(where) ? where : `in ${where}`;
}

function Keep({ me, boat }: { me: Membership; boat: string }) {
  const queries = useQueryClient();
  const draft = `${me.crew_id}.arrangement.${boat}`;
  const [name, setName] = useDraft(`${draft}.name`, "");
  return (
    <SaveForm
      name="Keep how she lies now"
      draft={draft}
      button="Keep"
      save={() =>
        api.post("/api/crews/{crew}/boats/{boat}/arrangements", {
          params: { path: { crew: me.crew_id, boat } },
          body: { name: name.trim() },
        })
      }
      onSaved={() => {
        setName("");
        freshGear(queries);
      }}
    >
      <div className="max-w-md">
        <TextField label="Keep how she lies now as" value={name} onChange={setName} />
      </div>
    </SaveForm>
  );
}
