import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Bench, type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";

type Surveys = Schemas["Surveys"];
type One = Surveys["kept"][number];

const ACCEPTED = {
  mass: "kept as a fixed mass of hers",
  hull: "the hull's mass was changed",
  height: "the hull's centre was moved up or down",
};

/** The checks that were kept: later ones are read against them. */
export function Kept({ me, bench, checks }: { me: Membership; bench: Bench; checks: Surveys }) {
  const units = unitsOf(me.units);
  const floats = checks.kept.filter((k) => k.result.float);
  return (
    <section aria-label="Checks that were kept" className="border-(--hair) border-t pt-3">
      <h2 className="label-type text-2xl">Checks that were kept</h2>
      {checks.kept.length === 0 && (
        <p className="quiet">None yet. The first is what every later one is compared with.</p>
      )}
      <ul>
        {checks.kept.map((k) => {
          const f = k.result.float;
          const before = f && floats[floats.indexOf(k) + 1]?.result.float;
          return (
            <li key={k.id} className="hairline-b grid gap-1 py-3" data-testid="kept">
              <span className="quiet text-sm">
                {new Date(k.at).toLocaleDateString(undefined, { day: "numeric", month: "long", year: "numeric" })},{" "}
                {k.by}, {k.kind === "float" ? "float check" : "inclining check"}
              </span>
              <span>{f?.sentence ?? k.result.incline?.sentence}</span>
              {f && before && (
                <span className="quiet text-sm">
                  Against the list of masses she is {change(f.more_kg - before.more_kg, units)} than at the check
                  before.
                </span>
              )}
              {k.accepted ? (
                <span className="text-sm">Accepted: {ACCEPTED[k.accepted]}.</span>
              ) : (
                <Proposals me={me} boat={bench.id} version={checks.version} check={k} />
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function change(kg: number, units: ReturnType<typeof unitsOf>): string {
  if (Math.abs(kg) < 1) return "no heavier or lighter";
  return `${units.mass(Math.abs(kg))} ${units.massUnit} ${kg > 0 ? "heavier" : "lighter"}`;
}

type ProposalProps = { me: Membership; boat: string; version: number; check: One };

/** Corrections are proposed and shown; only who may change the boat accepts one. */
function Proposals({ me, boat, version, check }: ProposalProps) {
  const queries = useQueryClient();
  const accepting = useMutation({
    mutationFn: (kind: "mass" | "hull" | "height") =>
      api.post("/api/crews/{crew}/boats/{boat}/checks/{check}/accept", {
        params: { path: { crew: me.crew_id, boat, check: check.id } },
        body: { kind, version },
      }),
    onSettled: () => queries.invalidateQueries(),
  });
  const list = [...(check.result.float?.proposals ?? []), ...(check.result.incline?.proposals ?? [])];
  if (list.length === 0) return null;
  const mayChange = may(me, "change_boat");
  return (
    <div className="grid gap-2 pt-1">
      {list.map((p) => (
        <div key={p.kind} className="flex flex-wrap items-center gap-3">
          <span className="min-w-60 flex-1">{p.sentence}</span>
          {mayChange && (
            <button
              type="button"
              className="plain-button"
              disabled={accepting.isPending}
              onClick={() => accepting.mutate(p.kind)}
            >
              Accept
            </button>
          )}
        </div>
      ))}
      {!mayChange && <p className="quiet text-sm">A skipper or an owner may accept one of these.</p>}
      {accepting.error && (
        <p role="alert" className="text-loud">
          {sayError(accepting.error)}
        </p>
      )}
    </div>
  );
}
