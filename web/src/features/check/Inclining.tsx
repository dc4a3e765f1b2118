import { useState } from "react";
import { type Bench, type Membership, Refusal, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { degrees, heelWords, unitsOf } from "../../domain/units";
import { AttitudePicture } from "../../drawing/AttitudePicture";
import { Choice, NotANumber, NumberFields, read } from "../../ui/Form";
import { Faults } from "../../ui/States";
import { Step, WhoStandsWhere } from "./CheckPage";
import { useCheck } from "./useCheck";

/** A known person walks across; the heel, read from any level, gives GM. */
export function Inclining({ me, bench }: { me: Membership; bench: Bench }) {
  const units = unitsOf(me.units);
  const aboard = bench.members.filter((m) => bench.state.people.some((s) => s.member_id === m.id && s.post_id));
  const [chosen, setChosen] = useState<string>();
  const who = aboard.find((m) => m.id === chosen) ?? aboard[0];
  const fields = [
    {
      key: "to_y",
      label: "Walks to, off the middle",
      unit: units.sideUnit,
      si: units.sideSI,
      hint: "to port +, to starboard −",
    },
    { key: "before", label: "Heel before", unit: "°", si: 1, hint: "starboard down +" },
    { key: "after", label: "Heel after", unit: "°", si: 1, hint: "starboard down +" },
    { key: "sigma", label: "Level is read to", unit: "°", si: 1, hint: "a phone on a firm seat: 0.1" },
  ];
  const [values, setValues] = useState<Record<string, string>>({ sigma: "0.1" });
  const body = (): { incline: Schemas["InclineInput"] } => {
    if (!who) throw new NotANumber("Put someone aboard first.");
    const n = read(fields, values);
    return {
      incline: {
        member_id: who.id,
        to_y_m: n.to_y ?? 0,
        before_deg: n.before ?? 0,
        after_deg: n.after ?? 0,
        sigma_deg: n.sigma ?? 0,
      },
    };
  };
  const { trying, keeping, error } = useCheck(me, bench.id, body);
  const found = trying.data?.incline;
  const now = bench.state.now.attitude;
  const people = bench.state.people.flatMap((s) => {
    const mark = bench.members.find((m) => m.id === s.member_id)?.mark;
    return s.cg_m && mark ? [{ mark, cg_m: s.cg_m }] : [];
  });
  return (
    <div className="grid gap-6 lg:grid-cols-2">
      <ol className="grid content-start gap-5">
        <Step n={1} title="Who stands where">
          <WhoStandsWhere me={me} bench={bench} />
        </Step>
        <Step n={2} title="Who walks across, and the heel read off a level">
          {who ? (
            <Choice
              label="Who"
              value={who.id}
              options={aboard.map((m) => [m.id, `${m.name}, ${units.mass(m.kg)} ${units.massUnit}`] as const)}
              onChange={setChosen}
            />
          ) : (
            <p className="text-loud">Nobody is aboard: put someone at a post first.</p>
          )}
          <NumberFields
            fields={fields}
            values={values}
            onChange={(v) => {
              trying.reset();
              setValues(v);
            }}
            narrow
          />
          <Faults
            text={error ? (error instanceof NotANumber ? error.message : sayError(error)) : undefined}
            details={error instanceof Refusal ? error.details : []}
          />
          <button
            type="button"
            className="main-button justify-self-start"
            disabled={!who || trying.isPending}
            onClick={() => trying.mutate()}
          >
            Show the result
          </button>
          <p className="quiet text-sm">Stay within a few degrees; hold on, and wear a lifejacket.</p>
        </Step>
      </ol>
      <div className="grid content-start gap-4">
        {now && (
          <figure>
            <AttitudePicture
              lines={bench.lines}
              attitude={now}
              people={people}
              label="How she floats by the list of masses"
            />
            <figcaption className="quiet text-sm">
              Heel by the list of masses {degrees(Math.abs(now.heel_deg))}° {heelWords(now.heel_deg)}.
            </figcaption>
          </figure>
        )}
        {found && (
          <section aria-label="Result" className="grid gap-3 border border-base-content p-4">
            <p className={`text-xl ${found.agrees ? "" : "text-loud"}`} data-testid="finding">
              {found.sentence}
            </p>
            <p className="quiet text-sm">
              Heel measured {found.turn_deg.toFixed(2)}°; by the list she would heel{" "}
              {found.expected_turn_deg.toFixed(2)}
              °.
            </p>
            {may(me, "move") && (
              <button
                type="button"
                className="plain-button justify-self-start"
                disabled={keeping.isPending}
                onClick={() => keeping.mutate()}
              >
                Keep this check
              </button>
            )}
          </section>
        )}
      </div>
    </div>
  );
}
