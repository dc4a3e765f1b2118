import { useQuery } from "@tanstack/react-query";
import { askTrip } from "../api/askTrip";
import type { Membership } from "../api/client";
import type { Stage } from "../domain/pages";

/** How far a stage of a trip is, in a word. */
export default function StageWord({ me, trip, stage }: { me: Membership; trip: string; stage: Stage }) {
  const page = useQuery(askTrip.page(me.crew_id, trip));
  const found = page.data?.stages.find((s) => s.stage === stage);
  if (!found) return null;
  const loud = found.state === "waits" || found.state === "changed";
  const word = found.state === "settled" ? "settled" : found.state === "changed" ? "changed" : found.word;
  return <span className={`text-sm ${loud && stage !== "ready" ? "text-loud" : "quiet"}`}>{word}</span>;
}
