import type { Schemas } from "../api/client";
import { path } from "../drawing/projection";

type View = Schemas["BriefView"];

/** What guests are told, to be read aloud: on a page, a phone or paper. */
export function Brief({ v }: { v: View }) {
  return (
    <article aria-label={`Aboard ${v.boat}`} className="grid gap-4">
      <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-4 sm:grid-cols-[9rem_minmax(0,1fr)]">
        <FromAbove v={v} />
        <ol className="grid content-start gap-2">
          {v.points.map((p) => (
            <li key={p.number} className="grid grid-cols-[1.75rem_minmax(0,1fr)]">
              <span className="figure-type grid size-6 place-items-center rounded-full bg-base-content text-base-100">
                {p.number}
              </span>
              <span className="leading-snug">
                <b>{p.title}.</b> {p.said}
              </span>
            </li>
          ))}
          {v.own.map((text) => (
            <li key={text} className="pl-7 leading-snug">
              {text}
            </li>
          ))}
        </ol>
      </div>
      <section aria-label="If the skipper is hurt" className="leading-snug">
        <h2 className="label-type text-lg">If the skipper is hurt</h2>
        <p>{v.relief.join(" ")}</p>
      </section>
      <section aria-label="The distress call" className="border-2 border-base-content p-3 leading-snug">
        <h2 className="label-type text-lg">In danger to life: the distress call</h2>
        {v.call.map((line) => (
          <p key={line} className={line === line.toUpperCase() ? "font-bold" : ""}>
            {line}
          </p>
        ))}
      </section>
    </article>
  );
}

const UNIT = 100; // to a metre
const APART = 42;

/** Her outline bow up, with the numbers where things are. */
function FromAbove({ v }: { v: View }) {
  const sheer = v.lines.plan_sheer_xy_m;
  const long = Math.max(...sheer.map((q) => q[0]));
  const half = Math.max(...sheer.map((q) => q[1]));
  const at = (x: number, y: number): [number, number] => [(half - y) * UNIT + 20, (long - x) * UNIT + 20];
  const put: { n: number; x: number; y: number }[] = [];
  for (const p of v.points) {
    for (const spot of p.at_m) {
      let [x, y] = at(spot[0] ?? 0, spot[1] ?? 0);
      while (put.some((o) => Math.hypot(o.x - x, o.y - y) < APART)) y += APART / 2;
      x = Math.max(21, Math.min(x, 2 * half * UNIT + 19));
      put.push({ n: p.number, x, y });
    }
  }
  return (
    <svg
      viewBox={`0 0 ${2 * half * UNIT + 40} ${long * UNIT + 40}`}
      className="w-full"
      role="img"
      aria-label={`${v.boat} from above, bow up, with numbers where things are`}
    >
      <path
        d={path([...sheer.map(([x, y]) => at(x, y)), ...[...sheer].reverse().map(([x, y]) => at(x, -y))], true)}
        fill="var(--color-base-200)"
        stroke="currentColor"
        strokeWidth="4"
        strokeLinejoin="round"
      />
      {put.map((m) => (
        <g key={`${m.n} ${m.x} ${m.y}`}>
          <circle cx={m.x} cy={m.y} r="20" fill="currentColor" />
          <text
            x={m.x}
            y={m.y + 9}
            textAnchor="middle"
            fontSize="27"
            fontWeight="700"
            className="figure-type"
            fill="var(--color-base-100)"
          >
            {m.n}
          </text>
        </g>
      ))}
    </svg>
  );
}
