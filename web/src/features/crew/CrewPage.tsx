import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ChevronDown } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { ask } from "../../api/ask";
import { api, type Member, type Membership, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { may } from "../../domain/may";
import { unitsOf } from "../../domain/units";
import { WORDS } from "../../domain/words.gen";
import { Choice, NumberFields, Page, Part, read, SaveForm, TextField, typed } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";

const ROLES = WORDS.roles;

export default function CrewPage({ me }: { me: Membership }) {
  const members = useQuery(ask.members(me.crew_id));
  if (members.isPending) return <Waiting text="Loading the crew…" />;
  if (members.isError) return <ErrorNote text={sayError(members.error)} onRetry={() => members.refetch()} />;
  return (
    <Page title={me.crew} intro="Masses are of the body, clothed: they count wherever a person stands or sits aboard.">
      <Link className="inline-flex min-h-11 items-center justify-self-start underline" to="/crew/times">
        How long things take in this crew
      </Link>
      <ul className="border-(--hair) border-t">
        {members.data.map((m) => (
          <MemberRow key={m.id} me={me} member={m} others={members.data.filter((o) => o.id !== m.id)} />
        ))}
      </ul>
      {may(me, "invite") && <InvitePart me={me} />}
    </Page>
  );
}

type Person = { name: string; mark: string; mass_known: Member["mass_known"] };

function PersonFields(props: {
  me: Membership;
  person: Person;
  mass: Record<string, string>;
  onPerson: (p: Person) => void;
  onMass: (m: Record<string, string>) => void;
}) {
  const { person, onPerson } = props;
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2 lg:grid-cols-4">
      <TextField label="Name" value={person.name} onChange={(name) => onPerson({ ...person, name })} />
      <TextField label="Mark on gear" max={2} value={person.mark} onChange={(mark) => onPerson({ ...person, mark })} />
      <div className="[&>div]:grid-cols-1!">
        <NumberFields fields={massField(props.me)} values={props.mass} onChange={props.onMass} />
      </div>
      <Choice
        label="The mass is"
        value={person.mass_known}
        options={WORDS.mass_known}
        onChange={(mass_known) => onPerson({ ...person, mass_known })}
      />
    </div>
  );
}

function massField(me: Membership) {
  const units = unitsOf(me.units);
  return [{ key: "kg", label: "Mass, clothed", unit: units.massUnit, si: units.massSI }];
}

function MemberRow({ me, member, others }: { me: Membership; member: Member; others: Member[] }) {
  const queries = useQueryClient();
  const fresh = () => queries.invalidateQueries();
  const units = unitsOf(me.units);
  const scope = `${me.crew_id}.member.${member.id}.${me.units}`;
  const { name, mark, mass_known } = member;
  const [person, setPerson] = useDraft<Person>(`${scope}.person`, { name, mark, mass_known });
  const [mass, setMass] = useDraft(`${scope}.mass`, typed(massField(me), { kg: member.kg }));
  const path = { crew: me.crew_id, member: member.id };
  const facts = (
    <>
      <span className="label-type w-10 shrink-0 text-center text-xl">{member.mark}</span>
      <span className="min-w-0 flex-1">
        <span className="label-type block text-lg">{member.name}</span>
        <span className="quiet">
          {member.role}, {member.signs_in ? "signs in" : "no login"} ·{" "}
          {member.kg > 0 && `${units.mass(member.kg)} ${units.massUnit} · `}
          {member.owns === 0 ? "owns nothing here" : howMany(member.owns, "thing")}
        </span>
      </span>
    </>
  );
  if (!may(me, "change_crew"))
    return <li className="flex items-center gap-3 border-(--hair) border-b py-2">{facts}</li>;
  return (
    <li className="border-(--hair) border-b">
      <details className="group" data-member={member.name}>
        <summary className="flex min-h-14 cursor-pointer list-none items-center gap-3 py-2 hover:bg-base-100">
          {facts}
          <ChevronDown size={20} aria-hidden="true" className="mr-2 shrink-0 group-open:rotate-180" />
        </summary>
        <div className="grid gap-5 pb-5 lg:pl-13">
          <SaveForm
            draft={scope}
            name={member.name}
            button="Save"
            onSaved={fresh}
            save={async () => {
              const { kg = 0 } = read(massField(me), mass);
              const { name, mark, mass_known } = person;
              return api.put("/api/crews/{crew}/members/{member}", {
                params: { path },
                body: { name, mark, mass_known, kg, version: member.version },
              });
            }}
          >
            <PersonFields me={me} person={person} mass={mass} onPerson={setPerson} onMass={setMass} />
          </SaveForm>
          {may(me, "invite") && <OwnerTools me={me} member={member} onChanged={fresh} />}
          {may(me, "invite") && <PartWith me={me} member={member} others={others} onGone={fresh} />}
        </div>
      </details>
    </li>
  );
}

function OwnerTools({ me, member, onChanged }: { me: Membership; member: Member; onChanged: () => void }) {
  const path = { crew: me.crew_id, member: member.id };
  const give = useMutation({
    mutationFn: (role: Member["role"]) =>
      api.put("/api/crews/{crew}/members/{member}/role", {
        params: { path },
        body: { role, version: member.version },
      }),
    onSuccess: onChanged,
  });
  const link = useMutation({
    mutationFn: () => api.post("/api/crews/{crew}/members/{member}/reset-link", { params: { path } }),
  });
  return (
    <div className="grid items-end gap-3 sm:grid-cols-[minmax(0,22rem)_auto_1fr]">
      <Choice
        label={`What ${member.name} may do`}
        value={member.role}
        options={ROLES}
        onChange={(role) => give.mutate(role)}
      />
      <button type="button" className="plain-button" onClick={() => link.mutate()}>
        {member.signs_in ? "Make a password-reset link" : "Make an invitation link"}
      </button>
      {(give.error || link.error) && (
        <p role="alert" className="text-loud">
          {sayError(give.error ?? link.error)}
        </p>
      )}
      {link.data && <LinkShown token={link.data.token} />}
    </div>
  );
}

type PartWithProps = { me: Membership; member: Member; others: Member[]; onGone: () => void };

/** Takes a person off the crew, once it is said where their gear goes. */
function PartWith({ me, member, others, onGone }: PartWithProps) {
  const [open, setOpen] = useState(false);
  const [gear, setGear] = useState<(typeof WORDS.left_gear)[number][0]>("crew");
  const [heir, setHeir] = useState(others[0]?.id ?? "");
  const choices = WORDS.left_gear.filter(([key]) => key !== "person" || others.length > 0);
  if (!open)
    return (
      <button type="button" className="plain-button justify-self-start" onClick={() => setOpen(true)}>
        Take {member.name} off the crew…
      </button>
    );
  return (
    <section aria-label={`Take ${member.name} off the crew`} className="grid gap-3 border border-base-content p-4">
      <p>
        {member.name} can no longer sign in, and goes ashore. What they did stays under their name. This can't be
        undone: to come back, they are invited anew.
      </p>
      <SaveForm
        name={`Leaving of ${member.name}`}
        button={`Take ${member.name} off the crew`}
        onSaved={onGone}
        save={() =>
          api.post("/api/crews/{crew}/members/{member}/leaving", {
            params: { path: { crew: me.crew_id, member: member.id } },
            body: { version: member.version, gear, ...(gear === "person" ? { heir_id: heir } : {}) },
          })
        }
      >
        {member.owns > 0 && (
          <div className="grid gap-3 sm:grid-cols-2">
            <Choice label={`What is theirs (${member.owns}) will`} value={gear} options={choices} onChange={setGear} />
            {gear === "person" && (
              <Choice
                label="To whom"
                value={heir}
                options={others.map((o) => [o.id, o.name] as const)}
                onChange={setHeir}
              />
            )}
          </div>
        )}
      </SaveForm>
      <button type="button" className="plain-button justify-self-start" onClick={() => setOpen(false)}>
        Keep {member.name}
      </button>
    </section>
  );
}

function LinkShown({ token }: { token: string }) {
  return (
    <p className="border border-base-content p-3 break-all sm:col-span-3" role="status">
      <b>Send this link yourself; it is shown only now and works once, for a week:</b>
      <br />
      {`${window.location.origin}/link#${token}`}
    </p>
  );
}

function InvitePart({ me }: { me: Membership }) {
  const queries = useQueryClient();
  const scope = `${me.crew_id}.invite.${me.units}`;
  const [person, setPerson] = useDraft<Person>(`${scope}.person`, { name: "", mark: "", mass_known: "guess" });
  const [mass, setMass] = useDraft(`${scope}.mass`, typed(massField(me), { kg: 80 }));
  const [role, setRole] = useDraft<Member["role"]>(`${scope}.role`, "hand");
  const [token, setToken] = useState<string>();
  return (
    <Part title="Someone new">
      <SaveForm
        draft={scope}
        name="Someone new"
        button="Add and make an invitation link"
        onSaved={() => queries.invalidateQueries({ queryKey: ask.members(me.crew_id).queryKey })}
        save={async () => {
          const { kg = 0 } = read(massField(me), mass);
          const made = await api.post("/api/crews/{crew}/invitations", {
            params: { path: { crew: me.crew_id } },
            body: { ...person, kg, role },
          });
          setToken(made.token);
        }}
      >
        <PersonFields me={me} person={person} mass={mass} onPerson={setPerson} onMass={setMass} />
        <Choice label="What they may do" value={role} options={ROLES} onChange={setRole} />
      </SaveForm>
      {token && <LinkShown token={token} />}
    </Part>
  );
}
