import { Download, FileText } from "lucide-react";
import { useState } from "react";
import { useParams } from "react-router";
import type { Membership } from "../../api/client";

/** The drawing on paper: looked at here, taken away as PDF or SVG. */
export default function SheetPage({ me }: { me: Membership }) {
  const { boat = "" } = useParams();
  const [dimensions, setDimensions] = useState(true);
  const address = (kind: "svg" | "pdf") =>
    `/api/crews/${me.crew_id}/boats/${boat}/sheet?kind=${kind}&dimensions=${dimensions}`;
  const name = me.boats.find((b) => b.id === boat)?.name ?? "The boat";
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-base-200">
      <div className="mx-auto grid max-w-5xl gap-4 p-4 lg:p-6">
        <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-2">
          <h1 className="label-type flex-1 text-3xl">{name}, for paper</h1>
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="checkbox"
              checked={dimensions}
              onChange={(e) => setDimensions(e.target.checked)}
            />
            dimensions
          </label>
          <a className="main-button flex items-center gap-1.5" href={address("pdf")} target="_blank" rel="noreferrer">
            <FileText size={18} aria-hidden="true" /> PDF
          </a>
          <a className="plain-button flex items-center gap-1.5" href={address("svg")} download={`${name}.svg`}>
            <Download size={18} aria-hidden="true" /> SVG
          </a>
        </div>
        <img
          src={address("svg")}
          alt={`${name}: plan, profile and section, to scale`}
          className="w-full border border-(--hair) bg-white"
        />
        <p className="quiet no-print text-sm">A4, landscape. Check the print with a ruler on the scale bar.</p>
      </div>
    </main>
  );
}
