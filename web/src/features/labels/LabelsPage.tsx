import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { ask } from "../../api/ask";
import { askGear } from "../../api/askGear";
import { api, type Membership, Refusal, sayError } from "../../api/client";
import { howMany } from "../../domain/howMany";
import { Choice, Page, Part } from "../../ui/Form";
import { Faults, Waiting } from "../../ui/States";
import { useDraft } from "../../ui/useDraft";

type Pick = { gear: string[]; places: string[]; sheds: string[] };

/** Sheets of labels with codes, for boxes, rods, lids and shelves. */
export default function LabelsPage({ me }: { me: Membership }) {
  const [params] = useSearchParams();
  const crew = me.crew_id;
  const [pick, setPick] = useState<Pick>({
    gear: params.getAll("gear"),
    places: params.getAll("place"),
    sheds: params.getAll("shed"),
  });
  const [boat, setBoat] = useState(params.get("boat") ?? me.boats[0]?.id ?? "");
  const [sheet, setSheet] = useState("a4-21");
  const [skip, setSkip] = useState("0");
  const set = useQuery(ask.session()).data?.address; // the program's own setting wins
  const [typed, setTyped] = useDraft(`${crew}.labels.address`, window.location.origin);
  const address = set ?? typed.trim().replace(/\/+$/, "");
  const deaf = !/^https?:\/\/[^/?#@\s]+$/.test(address);
  const here = /^https?:\/\/(localhost|127\.|\[?::1|0\.0\.0\.0)/.test(address);
  const sheets = useQuery(askGear.labelSheets(crew));
  const boxes = useInfiniteQuery(askGear.gearList(crew, { only: "containers" }, 200));
  const shed = useQuery(askGear.shed(crew));
  const bench = useQuery(ask.bench(crew, boat));
  const print = useMutation({
    mutationFn: async () => {
      const blob = (await api.post("/api/crews/{crew}/labels", {
        params: { path: { crew } },
        body: { sheet, skip: Number(skip) || 0, ...pick, address },
        parseAs: "blob",
      })) as unknown as Blob;
      return URL.createObjectURL(blob);
    },
  });
  if (!sheets.data) return <Waiting text="Loading the labels…" />;
  const n = pick.gear.length + pick.places.length + pick.sheds.length;
  const flip = (key: keyof Pick, id: string) => {
    print.reset();
    setPick({ ...pick, [key]: pick[key].includes(id) ? pick[key].filter((x) => x !== id) : [...pick[key], id] });
  };
  const list = (key: keyof Pick, rows: (readonly [string, string])[]) => (
    <div className="columns-2 gap-x-6 lg:columns-3">
      {rows.map(([id, name]) => (
        <label key={id} className="flex min-h-11 break-inside-avoid items-center gap-2 leading-tight">
          <input type="checkbox" className="checkbox" checked={pick[key].includes(id)} onChange={() => flip(key, id)} />
          {name}
        </label>
      ))}
    </div>
  );
  const known = boxes.data?.pages.flatMap((p) => p.rows) ?? [];
  const others = pick.gear.filter((id) => !known.some((g) => g.id === id)).length;
  return (
    <Page
      title="Labels"
      intro="A phone's camera opens what the code is on: what should be in here, tick, “I moved it”. Print one sheet and check it against the paper first."
    >
      <div className="sticky top-0 z-10 grid items-end gap-x-4 gap-y-2 border-b border-base-content bg-base-100 py-2 sm:grid-cols-[2fr_1fr_auto]">
        <Choice
          label="Sheet"
          value={sheet}
          options={sheets.data.map((s) => [s.key, `${s.name}: ${s.use}`] as const)}
          onChange={(v) => {
            print.reset();
            setSheet(v);
          }}
        />
        <label className="grid gap-0.5">
          <span className="text-sm leading-tight">Labels used already on the first sheet</span>
          <input
            className="input min-h-11 w-full text-base"
            inputMode="numeric"
            value={skip}
            onChange={(e) => {
              print.reset();
              setSkip(e.target.value);
            }}
          />
        </label>
        {print.data ? (
          <a className="main-button flex items-center" href={print.data} target="_blank" rel="noreferrer">
            Open the PDF
          </a>
        ) : (
          <button
            type="button"
            className="main-button"
            disabled={n === 0 || print.isPending || deaf || here}
            onClick={() => print.mutate()}
          >
            {n === 0 ? "Set labels" : `Set ${howMany(n, "label")}`}
          </button>
        )}
      </div>
      {!set && (
        <label className="grid max-w-lg gap-0.5">
          <span className="text-sm leading-tight">Address under which phones open this program</span>
          <input
            className="input min-h-11 w-full text-base"
            inputMode="url"
            maxLength={200}
            value={typed}
            onChange={(e) => {
              print.reset();
              setTyped(e.target.value);
            }}
          />
        </label>
      )}
      {(here || deaf) && (
        <p role="status" className="text-loud max-w-2xl">
          {here
            ? `Codes printed now would lead to ${address}, which is this machine alone: no phone gets there. Type the address that the crew uses, such as http://192.168.1.20:8080 or https://boat.example.`
            : "Write the address like http://192.168.1.20:8080 or https://boat.example."}
        </p>
      )}
      <Faults
        text={print.error ? sayError(print.error) : undefined}
        details={print.error instanceof Refusal ? print.error.details : []}
      />
      {others > 0 && <p>{others} chosen on the list of gear.</p>}
      <Part title="Boxes">
        {list(
          "gear",
          known.map((g) => [g.id, g.name] as const),
        )}
      </Part>
      <Part title="Places ashore">
        {list(
          "sheds",
          (shed.data ?? []).map((s) => [s.id, `${s.site}, ${s.name}`] as const),
        )}
      </Part>
      <Part title="Places aboard">
        <div className="max-w-xs">
          <Choice label="Boat" value={boat} options={me.boats.map((b) => [b.id, b.name] as const)} onChange={setBoat} />
        </div>
        {list(
          "places",
          (bench.data?.places ?? []).map((p) => [p.id, p.name] as const),
        )}
      </Part>
    </Page>
  );
}
