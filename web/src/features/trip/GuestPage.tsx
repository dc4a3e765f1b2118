import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { askTrip } from "../../api/askTrip";
import { sayError } from "../../api/client";
import { clock } from "../../domain/clock";
import { Brief } from "../../parts/Brief";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useTitle } from "../../ui/useTitle";

function onHash(changed: () => void) {
  window.addEventListener("hashchange", changed);
  return () => window.removeEventListener("hashchange", changed);
}

/** What a trip's guests are shown. The token is behind the #, which no browser sends to a server. */
export default function GuestPage() {
  const token = useSyncExternalStore(onHash, () => window.location.hash.slice(1));
  const view = useQuery({ ...askTrip.guest(token), enabled: token.length >= 20 });
  useTitle(view.data?.trip);
  if (token.length < 20) return <ErrorNote text="This link is not whole: copy all of it, to its last letter." />;
  if (view.isPending) return <Waiting text="Reading the link…" />;
  if (view.isError) return <ErrorNote text={sayError(view.error)} />;
  const v = view.data;
  const facts = [
    ["Day", v.starts_on === v.ends_on ? day(v.starts_on) : `${day(v.starts_on)} to ${day(v.ends_on)}`],
    ["Where", v.water],
    ["At the ramp", v.meet_min === undefined ? "" : clock(v.meet_min)],
    ["Back about", v.back_min === undefined ? "" : clock(v.back_min)],
    ["Boat", v.boat ?? ""],
    ["Skipper", v.skipper ?? ""],
    ["Aboard", `${v.aboard} in all`],
    ["Light", v.light ?? ""],
  ].filter(([, value]) => value);
  return (
    <main className="mx-auto grid max-w-md content-start gap-5 p-6">
      <h1 className="label-type text-4xl leading-tight">{v.trip}</h1>
      {v.told && <p className="text-xl leading-snug">{v.told}</p>}
      <dl className="grid grid-cols-[7rem_minmax(0,1fr)] gap-y-2">
        {facts.map(([name, value]) => (
          <div key={name} className="hairline-b col-span-2 grid grid-cols-subgrid pb-1">
            <dt className="label-type text-lg">{name}</dt>
            <dd className="text-lg">{value}</dd>
          </div>
        ))}
      </dl>
      {v.brief && (
        <details>
          <summary className="label-type min-h-11 cursor-pointer py-2 text-2xl">
            What to know aboard {v.brief.boat}
          </summary>
          <Brief v={v.brief} />
        </details>
      )}
      <p className="quiet text-sm">
        Wear a lifejacket from the quay to the quay, tell the skipper if you can't swim, and do as the skipper says.
      </p>
    </main>
  );
}
