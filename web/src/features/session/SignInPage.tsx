import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { ask } from "../../api/ask";
import { api, type Member, Refusal, sayError } from "../../api/client";
import { Faults } from "../../ui/States";

export default function SignInPage({ demo }: { demo: Member[] }) {
  const queries = useQueryClient();
  const inside = { onSuccess: () => queries.invalidateQueries({ queryKey: ask.session().queryKey }) };
  const press = useMutation({
    mutationFn: (member_id: string) => api.post("/api/demo/session", { body: { member_id } }),
    ...inside,
  });
  return (
    <main className="mx-auto grid min-h-full max-w-md content-center gap-6 p-6">
      <div>
        <h1 className="label-type text-5xl">Ergasia</h1>
        <p className="pt-1 text-lg leading-snug">Where each thing goes aboard, and how she floats with it.</p>
      </div>
      {demo.length > 0 && (
        <section aria-label="Demonstration" className="grid gap-2 border border-base-content bg-base-100 p-4">
          <p>This is a demonstration with invented people. Step aboard as</p>
          {demo.map((m) => (
            <button
              key={m.id}
              type="button"
              className={m.role === "owner" ? "main-button text-left" : "plain-button text-left"}
              disabled={press.isPending}
              onClick={() => press.mutate(m.id)}
            >
              {m.name}, {m.role}
            </button>
          ))}
          <Faults text={press.error ? sayError(press.error) : undefined} details={[]} />
        </section>
      )}
      <PasswordForm onIn={inside.onSuccess} />
    </main>
  );
}

function PasswordForm({ onIn }: { onIn: () => void }) {
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  const enter = useMutation({
    mutationFn: () => api.post("/api/session", { body: { login, password } }),
    onSuccess: onIn,
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    enter.mutate();
  };
  return (
    <form className="grid gap-3" onSubmit={submit} aria-label="Sign in">
      <label className="grid gap-1">
        Login
        <input
          className="input w-full text-base"
          autoComplete="username"
          required
          value={login}
          onChange={(e) => setLogin(e.target.value)}
        />
      </label>
      <label className="grid gap-1">
        Password
        <input
          className="input w-full text-base"
          type="password"
          autoComplete="current-password"
          required
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
      </label>
      <Faults
        text={enter.error ? sayError(enter.error) : undefined}
        details={enter.error instanceof Refusal ? enter.error.details : []}
      />
      <button type="submit" className="plain-button" disabled={enter.isPending}>
        Sign in
      </button>
      <p className="quiet text-sm">Forgotten it? An owner of your crew can make you a link for a new one.</p>
    </form>
  );
}
