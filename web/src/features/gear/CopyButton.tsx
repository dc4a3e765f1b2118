import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type Membership, sayError } from "../../api/client";

/** Makes gear like what is aboard, for another boat. */
export function CopyButton({ me, boat, name }: { me: Membership; boat: string; name: string }) {
  const navigate = useNavigate();
  const copy = useMutation({
    mutationFn: () =>
      api.post("/api/crews/{crew}/boats/{boat}/copies", {
        params: { path: { crew: me.crew_id, boat } },
        body: {},
      }),
    onSuccess: () => navigate("/gear?kind=quay&sort=recent"),
  });
  return (
    <>
      <button type="button" className="plain-button" disabled={copy.isPending} onClick={() => copy.mutate()}>
        Copy what is aboard {name}
      </button>
      {copy.error && (
        <span role="alert" className="text-loud">
          {sayError(copy.error)}
        </span>
      )}
    </>
  );
}
