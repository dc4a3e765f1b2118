import { Link } from "react-router";
import type { Rigging } from "./RiggingPage";

/** The heaviest things that only friction and straps keep in their place. */
export function LooseThings({ rigging }: { rigging: Rigging }) {
  if (rigging.loose.length === 0) return null;
  return (
    <section aria-label="What may slide" className="grid gap-2 border-(--hair) border-t pt-3">
      <h2 className="label-type text-xl">What may slide</h2>
      <ul>
        {rigging.loose.map((l) => (
          <li
            key={l.gear_id ?? l.name}
            className={`border-l-3 py-1.5 pl-3 leading-snug ${l.slides ? "border-(--loud-ink)" : "border-(--hair)"}`}
          >
            {l.gear_id ? (
              <Link className="hover:underline" to={`/gear/${l.gear_id}`}>
                {l.said}
              </Link>
            ) : (
              l.said
            )}
          </li>
        ))}
      </ul>
      <p className="quiet text-sm leading-snug">
        An estimate, by how hard the sea slams where she is used. A strap needs two tie-downs that are listed as holding
        what lies in the place.
      </p>
    </section>
  );
}
