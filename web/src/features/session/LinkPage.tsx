import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "../../api/ask";
import { api, sayError } from "../../api/client";
import { SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";

/**
 * Where an invitation or reset link leads. The token is behind the #, which no
 * browser sends to a server, so it stands in no log.
 */
export default function LinkPage() {
  const token = window.location.hash.slice(1);
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  const header = { "X-Link-Token": token };
  const link = useQuery(ask.link(token));
  if (token.length < 20) return <ErrorNote text="This link is not whole: copy all of it, to its last letter." />;
  if (link.isPending) return <Waiting text="Reading the link…" />;
  if (link.isError) return <ErrorNote text={sayError(link.error)} />;
  const invitation = link.data.kind === "invitation";
  return (
    <main className="mx-auto grid min-h-full max-w-md content-center gap-5 p-6">
      <h1 className="label-type text-4xl">
        {invitation ? `Welcome aboard, ${link.data.name}` : `A new password, ${link.data.name}`}
      </h1>
      <p>
        {invitation
          ? `You are invited to the crew ${link.data.crew}. Choose how you sign in.`
          : "Choose a new password. Wherever you are signed in now, you will be signed out."}
      </p>
      <SaveForm
        name="Sign-in"
        button={invitation ? "Join the crew" : "Set the password"}
        save={() =>
          api.post("/api/link", { params: { header }, body: invitation ? { login, password } : { password } })
        }
        onSaved={() => window.location.replace("/")} // a fresh page: what was fetched before knows no session
      >
        {invitation && <TextField label="Login" value={login} onChange={setLogin} complete="username" />}
        <TextField
          label="Password, at least 10 characters"
          type="password"
          max={200}
          value={password}
          onChange={setPassword}
          complete="new-password"
        />
      </SaveForm>
    </main>
  );
}
