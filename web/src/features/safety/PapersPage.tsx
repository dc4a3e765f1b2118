import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, freshGear } from "../../api/ask";
import { askSafety, writeSafety } from "../../api/askSafety";
import { type Membership, type Schemas, sayError } from "../../api/client";
import { may } from "../../domain/may";
import { WORDS } from "../../domain/words.gen";
import { AddPicture } from "../../parts/AddPicture";
import { GearPick } from "../../parts/GearPick";
import { Choice, Loose, Page, Part, RemoveButton, SaveForm, TextField } from "../../ui/Form";
import { ErrorNote, Waiting } from "../../ui/States";
import { day } from "../../ui/time";
import { useDraft } from "../../ui/useDraft";

type Paper = Schemas["PaperView"];

const KINDS = Object.fromEntries(WORDS.paper_kinds);

/** Registration, insurance, licences and the like, in the order in which they are asked for. */
export default function PapersPage({ me }: { me: Membership }) {
  const papers = useQuery(askSafety.papers(me.crew_id));
  if (papers.isPending) return <Waiting text="Opening the wallet…" />;
  if (papers.isError) return <ErrorNote text={sayError(papers.error)} onRetry={() => papers.refetch()} />;
  const wrong = papers.data.filter((p) => p.state !== "good");
  return (
    <Page title="Papers" intro="A trip asks for those of its boat, of who comes, and of its water.">
      {papers.data.length > 0 && (
        <p className="text-2xl leading-tight" role="status">
          {wrong.length > 0 ? (
            <b className="text-loud">
              {wrong.length} out of date, or soon: {wrong.map((p) => p.name).join(", ")}.
            </b>
          ) : (
            <b>All in date.</b>
          )}
        </p>
      )}
      {papers.data.length === 0 && <p className="quiet">None listed yet: begin with the registration.</p>}
      <ul className="border-base-content border-t">
        {papers.data.map((p) => (
          <Row key={p.id} me={me} p={p} />
        ))}
      </ul>
      {may(me, "change_gear") && (
        <Part title="List a paper">
          <PaperForm me={me} />
        </Part>
      )}
    </Page>
  );
}

function Row({ me, p }: { me: Membership; p: Paper }) {
  const [open, setOpen] = useState(() => window.location.hash === `#${p.id}`);
  return (
    <li className="hairline-b grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 py-1.5" data-paper={p.name}>
      <div>
        <p className="leading-tight">
          <b>{p.name}</b> <span className="quiet">{p.boat ?? p.member ?? ""}</span>
        </p>
        <p className={`text-sm leading-snug ${p.state === "out" ? "text-loud" : "quiet"}`}>
          {[
            p.state === "out" && "out of date",
            p.state === "soon" && "soon",
            p.expires_on && `good until ${day(p.expires_on)}`,
            KINDS[p.kind],
            p.number,
            (p.waters ?? []).length > 0 && `for ${(p.waters ?? []).join(", ")}`,
            p.wallet && `in ${p.wallet}`,
            p.photos > 0 && `${p.photos} ${p.photos === 1 ? "picture" : "pictures"}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </p>
      </div>
      <button
        type="button"
        className="plain-button"
        aria-expanded={open}
        aria-label={`${open ? "Shut" : "Open"}: ${p.name} ${p.boat ?? p.member ?? ""}`}
        onClick={() => setOpen(!open)}
      >
        {open ? "Shut" : "Open"}
      </button>
      {open && (
        <div className="col-span-2 grid gap-4 py-3">
          <Pictures me={me} p={p} />
          {may(me, "change_gear") && <PaperForm me={me} p={p} />}
        </div>
      )}
    </li>
  );
}

/** Pictures of the page, large enough to be shown to who asks. */
function Pictures({ me, p }: { me: Membership; p: Paper }) {
  const queries = useQueryClient();
  const photos = useQuery(askSafety.paperPhotos(me.crew_id, p.id));
  const fresh = () => freshGear(queries);
  return (
    <div className="grid gap-2">
      {(photos.data ?? []).map((f) => (
        <figure key={f.id} className="grid justify-items-start gap-1">
          <img
            className="max-h-[70vh] max-w-full border border-(--hair)"
            src={`/api/crews/${me.crew_id}/papers/${p.id}/photos/${f.id}`}
            alt={`${p.name}, as ${f.by} took it`}
          />
          {may(me, "change_gear") && (
            <RemoveButton
              text="Take the picture away"
              name={p.name}
              remove={() => writeSafety.noPaperPhoto(me.crew_id, p.id, f.id)}
              onRemoved={fresh}
            />
          )}
        </figure>
      ))}
      {may(me, "change_gear") && (
        <AddPicture send={(file) => writeSafety.paperPhoto(me.crew_id, p.id, file)} onSent={fresh} />
      )}
    </div>
  );
}

function PaperForm({ me, p }: { me: Membership; p?: Paper }) {
  const queries = useQueryClient();
  const members = useQuery(ask.members(me.crew_id));
  const scope = `${me.crew_id}.paper.${p?.id ?? "new"}`;
  const [f, setF] = useDraft(`${scope}.paper`, {
    name: p?.name ?? "",
    kind: p?.kind ?? ("licence" as Paper["kind"]),
    number: p?.number ?? "",
    of: p?.boat_id ? `boat ${p.boat_id}` : p?.member_id ? `member ${p.member_id}` : "",
    waters: (p?.waters ?? []).join(", "),
    asked: String(p?.asked ?? 0),
    expires: p?.expires_on ?? "",
    note: p?.note ?? "",
    wallet: p?.wallet_id ?? "",
    walletName: p?.wallet ?? "",
  });
  const put = (change: Partial<typeof f>) => setF({ ...f, ...change });
  const body = (): Schemas["PaperInput"] => {
    const [what, id] = f.of.split(" ");
    return {
      name: f.name,
      kind: f.kind,
      number: f.number || undefined,
      boat_id: what === "boat" ? id : undefined,
      member_id: what === "member" ? id : undefined,
      waters: f.waters
        .split(",")
        .map((w) => w.trim())
        .filter(Boolean),
      asked: Math.round(Number(f.asked)) || 0,
      expires_on: f.expires || undefined,
      wallet_id: f.wallet || undefined,
      note: f.note || undefined,
    };
  };
  return (
    <SaveForm
      name={p ? `Change: ${p.name}` : "List a paper"}
      draft={scope}
      button={p ? "Keep it" : "List it"}
      save={() =>
        p ? writeSafety.changePaper(me.crew_id, p.id, body(), p.version) : writeSafety.addPaper(me.crew_id, body())
      }
      onSaved={() => freshGear(queries)}
      extra={
        p && (
          <RemoveButton
            text="Remove"
            name={p.name}
            remove={() => writeSafety.noPaper(me.crew_id, p.id)}
            onRemoved={() => freshGear(queries)}
          />
        )
      }
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
        <TextField label="Name" value={f.name} onChange={(name) => put({ name })} />
        <Choice label="Kind" value={f.kind} options={WORDS.paper_kinds} onChange={(kind) => put({ kind })} />
        <Choice
          label="Of"
          value={f.of}
          options={[
            ["", "the crew"],
            ...me.boats.map((b) => [`boat ${b.id}`, b.name] as const),
            ...(members.data ?? []).map((m) => [`member ${m.id}`, m.name] as const),
          ]}
          onChange={(of) => put({ of })}
        />
        <Loose label="Number" value={f.number} onChange={(number) => put({ number })} />
        <Loose label="Last good day" type="date" value={f.expires} onChange={(expires) => put({ expires })} />
        <Loose
          label="Only for these waters, with commas"
          max={300}
          value={f.waters}
          onChange={(waters) => put({ waters })}
        />
        <Loose label="Asked for in this order" unit="" value={f.asked} onChange={(asked) => put({ asked })} />
        <Loose label="Note" max={600} value={f.note} onChange={(note) => put({ note })} />
      </div>
      <Wallet me={me} name={f.walletName} onPick={(wallet, walletName) => put({ wallet, walletName })} />
    </SaveForm>
  );
}

/** The gear that the paper lies in. */
function Wallet({ me, name, onPick }: { me: Membership; name: string; onPick: (id: string, name: string) => void }) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      {name ? (
        <p className="min-h-11 self-center">
          Lies in <b>{name}</b>
        </p>
      ) : (
        <div className="w-72">
          <GearPick
            me={me}
            label="Lies in"
            placeholder="Lies in: find the wallet"
            onPick={(g) => onPick(g.id, g.name)}
          />
        </div>
      )}
      {name && (
        <button type="button" className="plain-button" onClick={() => onPick("", "")}>
          Elsewhere
        </button>
      )}
    </div>
  );
}
