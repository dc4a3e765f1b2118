import type { ReactNode } from "react";
import type { Bench, Trial } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { degrees, heelWords, trimWords, type Units } from "../../domain/units";
import type { Hand } from "./useHand";
import type { Note } from "./useMoves";

/** What is in the hand and what would become of her, in sentences. */
export function trialSentence(bench: Bench, trial: Trial | undefined, units: Units): string {
  if (!trial) return "";
  if (trial.refused.length > 0) return trial.refused.join(" ");
  const then = trial.then;
  const now = trial.now.attitude;
  if (!then?.attitude || !now) return then?.why ? `No: ${then.why}.` : "She would not stay afloat.";
  if (then.status !== "afloat") return `No: she would be ${then.status}.`;
  const stern = gauge(then, "stern") - gauge(trial.now, "stern");
  const up =
    Math.abs(stern) < 0.0005
      ? "The stern stays"
      : `The stern ${stern > 0 ? "comes up" : "goes down"} ${units.small(Math.abs(stern))} ${units.smallUnit}`;
  const low = `freeboard ${units.small(now.lowest.m)} → ${units.small(then.attitude.lowest.m)} ${units.smallUnit}`;
  const heel = `heel ${degrees(Math.abs(now.heel_deg))}° → ${degrees(Math.abs(then.attitude.heel_deg))}° ${heelWords(then.attitude.heel_deg)}`;
  const trim = `trim ${degrees(Math.abs(now.trim_deg))}° → ${degrees(Math.abs(then.attitude.trim_deg))}° ${trimWords(then.attitude.trim_deg)}`;
  return `${up}: ${low}, ${heel}, ${trim}.${worse(bench, then, units)}${rummageWords(then.rummage_min_per_day - trial.now.rummage_min_per_day)}`;
}

/** Everything that is past what the crew holds her to, or past what it was, each with its figures. */
function worse(bench: Bench, then: NonNullable<Trial["then"]>, units: Units): string {
  const { limits, plate } = bench;
  const a = then.attitude;
  if (!a) return "";
  const said = [
    plate.max_kg > 0 &&
      then.plate_kg > plate.max_kg &&
      `load ${units.mass(then.plate_kg)} of ${units.mass(plate.max_kg)} ${units.massUnit}`,
    plate.max_persons > 0 &&
      then.persons > plate.max_persons &&
      `${howMany(then.persons, "person", "people")} of ${plate.max_persons}`,
    a.lowest.m < limits.freeboard_m.value &&
      `freeboard under ${units.small(limits.freeboard_m.value)} ${units.smallUnit}`,
    Math.abs(a.heel_deg) > limits.heel_deg.value && `heel over ${degrees(limits.heel_deg.value)}°`,
    a.trim_deg < limits.trim_low_deg.value && `trim under ${degrees(limits.trim_low_deg.value)}°`,
    a.trim_deg > limits.trim_high_deg.value && `trim over ${degrees(limits.trim_high_deg.value)}°`,
    ...then.awash.map((w) => `water in the ${w.space} by the ${w.through}`),
  ].filter(Boolean);
  return said.length > 0 ? ` Too much: ${said.join(", ")}.` : "";
}

/** What a move costs or gains in fetching. */
function rummageWords(minutes: number): string {
  if (Math.abs(minutes) < 0.05) return "";
  return ` Fetching takes ${Math.abs(minutes).toFixed(1)} min a day ${minutes > 0 ? "more" : "less"}.`;
}

function gauge(f: Trial["now"], where: string): number {
  return f.attitude?.gauges.find((g) => g.where === where)?.m ?? 0;
}

type Props = {
  bench: Bench;
  hand: Hand | undefined;
  targetName: string | undefined;
  trial: Trial | undefined;
  waiting: boolean;
  note: Note | undefined;
  units: Units;
  quayCount: number;
  onQuay: () => void;
  onSit: () => void;
  onLetGo: () => void;
  mayMove: boolean;
  goes?: ReactNode; // where the piece in hand may go
  offer?: ReactNode; // to note it where a rule says no
};

export function InHand({
  bench,
  hand,
  targetName,
  trial,
  waiting,
  note,
  units,
  quayCount,
  onQuay,
  onSit,
  onLetGo,
  mayMove,
  goes,
  offer,
}: Props) {
  const gear = hand?.kind === "gear" ? bench.gear.find((g) => g.id === hand.id) : undefined;
  const member = hand?.kind === "member" ? bench.members.find((m) => m.id === hand.id) : undefined;
  // A box weighs what it holds too.
  const whole = gear ? (bench.state.stowage.find((s) => s.gear_id === gear.id)?.kg ?? gear.kg * gear.count) : 0;
  const name = gear ? `${gear.name}, ${units.mass(whole, 1)} ${units.massUnit}` : member?.name;
  const refused = (trial?.refused.length ?? 0) > 0;
  const says = trialSentence(bench, trial, units);
  return (
    <div
      className={`no-print relative border bg-base-100 px-3 py-2 ${note?.loud || refused ? "border-accent" : hand ? "border-base-content" : "border-transparent"}`}
      data-testid="in-hand"
    >
      <div className="flex min-h-11 items-center lg:min-h-12 justify-between gap-3">
        <p className="line-clamp-3 leading-snug lg:line-clamp-2" aria-live="polite" data-testid="says">
          {note && (
            <span className={note.loud ? "text-loud" : ""}>
              <b>{note.text}</b> {note.details.filter((d) => d !== note.text).join(" ")}{" "}
            </span>
          )}
          {hand && !note && (
            <>
              <b>{name}</b>
              {targetName ? ` → ${targetName}. ` : ": choose where it goes. "}
              {targetName &&
                (waiting && !trial ? (
                  <span className="quiet">Working it out…</span>
                ) : (
                  <span className={refused ? "text-loud" : ""}>{says}</span>
                ))}
            </>
          )}
          {!hand && !note && (
            <span className="quiet">
              {!mayMove && "You are a guest here: look at anything. A hand, a skipper or an owner moves things. "}
              <span className={mayMove ? "max-lg:hidden" : "hidden"}>
                Drag a piece into a locker, or press it and then the locker.
              </span>
              <span className={mayMove ? "lg:hidden" : "hidden"}>Press a piece, then where it goes.</span>
            </span>
          )}
        </p>
        <span className="flex shrink-0 gap-2">
          {!hand && (
            <button type="button" className="main-button lg:hidden" onClick={onQuay}>
              Quay · {quayCount}
            </button>
          )}
          {hand?.kind === "member" && (
            <button type="button" className="plain-button" onClick={onSit} aria-pressed={hand.seated}>
              {hand.seated ? "Seated" : "Standing"}
            </button>
          )}
          {hand && (
            <button type="button" className="plain-button" onClick={onLetGo}>
              Cancel
            </button>
          )}
        </span>
      </div>
      {hand && offer && (
        // Beside a mouse it hangs below the bar: were the drawing to move, the pointer would be over another place.
        <div className="pb-1 lg:absolute lg:top-full lg:right-2 lg:z-10 lg:mt-1 lg:bg-base-100 lg:pb-0">{offer}</div>
      )}
      {goes}
    </div>
  );
}
