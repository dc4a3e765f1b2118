import { useState } from "react";
import { api } from "../../api/client";
import { SaveForm, TextField } from "../../ui/Form";

const EMPTY = { code: "", crew: "", name: "", login: "", password: "" };

/** The first page of a program that has no crew yet. */
export default function FoundPage() {
  const [in_, setIn] = useState(EMPTY);
  const set = (key: keyof typeof EMPTY) => (v: string) => setIn({ ...in_, [key]: v });
  return (
    <main className="mx-auto grid min-h-full max-w-md content-center gap-5 p-6">
      <h1 className="label-type text-4xl">Found your crew</h1>
      <p>
        There is no crew here yet. The code stands in the terminal in which the program was started; it is good once.
        You become the crew's owner, and invite the others.
      </p>
      <SaveForm
        name="Found a crew"
        button="Found the crew"
        save={() => api.post("/api/found", { body: in_ })}
        onSaved={() => window.location.replace("/")} // a fresh page: what was fetched before knows no session
      >
        <TextField label="Code" value={in_.code} onChange={set("code")} max={40} complete="one-time-code" />
        <TextField label="The crew is called" value={in_.crew} onChange={set("crew")} />
        <TextField label="Your name" value={in_.name} onChange={set("name")} complete="name" />
        <TextField label="Login" value={in_.login} onChange={set("login")} complete="username" />
        <TextField
          label="Password, at least 10 characters"
          type="password"
          max={200}
          value={in_.password}
          onChange={set("password")}
          complete="new-password"
        />
      </SaveForm>
    </main>
  );
}
