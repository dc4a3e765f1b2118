import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams } from "react-router";
import { askGear } from "../../api/askGear";
import { type Membership, sayError } from "../../api/client";
import { pathOf } from "../../domain/paths";
import { ErrorNote, Waiting } from "../../ui/States";

/** Where a label's code leads. */
export default function AtPage({ me }: { me: Membership }) {
  const { code = "" } = useParams();
  const hit = useQuery(askGear.label(me.crew_id, code));
  if (hit.isPending) return <Waiting text="Reading the label…" />;
  if (hit.isError) return <ErrorNote text={sayError(hit.error)} />;
  return <Navigate replace to={pathOf(hit.data)} />;
}
