import { Search } from "lucide-react";
import { lazy, type ReactNode, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import type { Membership } from "../api/client";
import { may } from "../domain/may";
import { ROOMS, type Room } from "../domain/pages";
import type { Begun } from "./FindBox";
import { doorOf, linksOf, useHere } from "./rooms";
import { Settings } from "./Settings";
import { UndoBar } from "./UndoBar";

const FindBox = lazy(() => import("./FindBox"));
const StageWord = lazy(() => import("./StageWord"));

type Here = ReturnType<typeof useHere>;

/** The page's frame: four rooms, the row of the one that one is in, and finding from anywhere. */
export function Shell({ me, children }: { me: Membership; children: ReactNode }) {
  const here = useHere(me);
  const [finding, setFinding] = useState(false);
  const begun = useRef<Begun>({ text: "", entered: false });
  const find = () => {
    begun.current = { text: "", entered: false };
    setFinding(true);
  };
  useSlash(find);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <button type="button" className="skip" onClick={skipMenu}>
        Skip the menu
      </button>
      <header className="no-print bg-base-200">
        <div className="flex items-center gap-x-2 border-base-content px-4 lg:h-13 lg:gap-x-6 lg:border-b">
          <span className="label-type text-2xl max-lg:hidden">Ergasia</span>
          <nav className="flex items-center gap-x-5 max-lg:hidden" aria-label="Rooms">
            {ROOMS.map(([room, name]) => (
              <span key={room} className="flex items-center gap-x-1.5">
                <Door me={me} here={here} room={room} name={name} />
                {room === "boat" && here.boat && <BoatChoice me={me} here={here} />}
              </span>
            ))}
          </nav>
          <span className="lg:hidden">
            {here.room === "boat" && here.boat ? (
              <BoatChoice me={me} here={here} />
            ) : (
              <span className="label-type text-2xl">{ROOMS.find(([room]) => room === here.room)?.[1]}</span>
            )}
          </span>
          <button
            type="button"
            className="label-type mx-auto flex min-h-11 cursor-pointer items-center gap-1.5 border border-(--hair) px-4 text-base hover:bg-base-100 max-lg:hidden"
            onClick={find}
          >
            <Search size={18} aria-hidden="true" /> Find
            <kbd className="quiet text-sm" aria-hidden="true">
              /
            </kbd>
          </button>
          <Settings me={me} />
        </div>
        <Row me={me} here={here} />
      </header>
      {children}
      {may(me, "move") && <UndoBar me={me} />}
      <Bar me={me} here={here} onFind={find} />
      {finding && (
        <Suspense fallback={<EarlyField begun={begun} />}>
          <FindBox me={me} begun={begun} onClose={() => setFinding(false)} />
        </Suspense>
      )}
    </div>
  );
}

/** Skips the rooms: to the first piece on the quay, or to the page itself. */
function skipMenu() {
  const first = document.querySelector<HTMLElement>("#quay button:not([disabled])");
  const main = document.querySelector<HTMLElement>("main");
  if (!first) main?.setAttribute("tabindex", "-1");
  (first ?? main)?.focus();
}

/** Takes what is typed until the field to find by is there. */
function EarlyField({ begun }: { begun: { current: Begun } }) {
  const field = useCallback((e: HTMLInputElement | null) => e?.focus(), []);
  return (
    <input
      ref={field}
      aria-label="Find"
      className="sr-only"
      onChange={(e) => {
        begun.current.text = e.target.value;
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") begun.current.entered = true;
      }}
    />
  );
}

/** Opens finding by `/`, unless someone types. */
function useSlash(open: () => void) {
  const latest = useRef(open);
  latest.current = open;
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName);
      if (e.key !== "/" || typing || e.ctrlKey || e.metaKey || e.altKey) return;
      e.preventDefault();
      latest.current();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

type DoorProps = { me: Membership; here: Here; room: Room; name: string };

function Door({ me, here, room, name }: DoorProps) {
  const inside = here.room === room;
  return (
    <Link
      to={doorOf(room, me, here)}
      aria-current={inside ? "true" : undefined}
      className={`label-type flex min-h-11 items-center px-1 text-lg ${inside ? "border-base-content border-b-3 pt-[3px]" : "quiet hover:underline"}`}
    >
      {name}
    </Link>
  );
}

/**
 * Scrolls a row so that one of its links is in the middle. The row alone moves: a link that is
 * scrolled into view by the browser is also where its Tab goes on from, past "Skip the menu".
 */
function center(row: HTMLElement | null, link: Element | null | undefined) {
  if (!row || !link) return;
  const [within, box] = [row.getBoundingClientRect(), link.getBoundingClientRect()];
  row.scrollLeft += box.left + box.width / 2 - (within.left + within.width / 2);
}

/** What can be done in the room that one is in. */
function Row({ me, here }: { me: Membership; here: Here }) {
  const row = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  const links = linksOf(here.room, me, here);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page is another link to show
  useEffect(() => {
    const show = () => center(row.current, row.current?.querySelector("[aria-current=page]"));
    const soon = requestAnimationFrame(show);
    const later = setTimeout(show, 900); // the stages' words have come, and made the row longer
    return () => {
      cancelAnimationFrame(soon);
      clearTimeout(later);
    };
  }, [pathname]);
  return (
    <nav
      ref={row}
      className="flex gap-x-5 overflow-x-auto border-(--hair) border-b px-4 [scrollbar-width:none]! lg:gap-x-6"
      aria-label={ROOMS.find(([room]) => room === here.room)?.[1]}
    >
      {here.room === "trip" && here.trip && <TripChoice me={me} trip={here.trip} />}
      {links.map((l) => (
        <NavLink
          key={l.key}
          to={l.to}
          end
          className={({ isActive }) =>
            `label-type flex min-h-11 shrink-0 items-center gap-x-1.5 whitespace-nowrap text-lg lg:min-h-10 lg:text-base ${isActive ? "border-base-content border-b-3 pt-[3px]" : "quiet hover:underline"}`
          }
        >
          {l.name}
          {l.stage && here.trip && (
            <Suspense>
              <StageWord me={me} trip={here.trip} stage={l.stage} />
            </Suspense>
          )}
        </NavLink>
      ))}
    </nav>
  );
}

/** The rooms on a phone: a bar within the thumb, with finding in its middle. */
function Bar({ me, here, onFind }: { me: Membership; here: Here; onFind: () => void }) {
  const cell = "label-type flex flex-1 items-center justify-center text-lg";
  const door = ([room, name]: readonly [Room, string]) => (
    <Link
      key={room}
      to={doorOf(room, me, here)}
      aria-current={here.room === room ? "true" : undefined}
      className={`${cell} ${here.room === room ? "border-base-content border-t-3" : "quiet border-transparent border-t-3"}`}
    >
      {name}
    </Link>
  );
  return (
    <nav
      className="no-print sticky bottom-0 z-20 flex h-(--bar) border-(--hair) border-t bg-base-200 pb-[env(safe-area-inset-bottom)] lg:hidden"
      aria-label="Rooms"
    >
      {ROOMS.slice(0, 2).map(door)}
      <button type="button" className={`${cell} quiet cursor-pointer border-transparent border-t-3`} onClick={onFind}>
        Find
      </button>
      {ROOMS.slice(2).map(door)}
    </nav>
  );
}

/** The trip that the row is about; another can be chosen. */
function TripChoice({ me, trip }: { me: Membership; trip: string }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const known = me.trips.some((t) => t.id === trip);
  return (
    <select
      aria-label="Trip"
      className="label-type min-h-11 max-w-56 shrink-0 cursor-pointer bg-transparent text-lg lg:min-h-10"
      value={known ? trip : ""}
      onChange={(e) =>
        navigate(pathname.includes(trip) ? pathname.replace(trip, e.target.value) : `/trips/${e.target.value}`)
      }
    >
      {!known && <option value="">A past trip</option>}
      {me.trips.map((t) => (
        <option key={t.id} value={t.id}>
          {t.name}
        </option>
      ))}
    </select>
  );
}

/** The boat's name; a choice where the crew has several. */
function BoatChoice({ me, here }: { me: Membership; here: Here }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const boat = here.boat?.id ?? "";
  if (me.boats.length === 1)
    return <span className="label-type flex min-h-11 items-center text-lg">{here.boat?.name}</span>;
  return (
    <select
      aria-label="Boat"
      className="label-type min-h-11 cursor-pointer bg-transparent text-lg max-lg:text-2xl"
      value={boat}
      onChange={(e) =>
        navigate(pathname.includes(boat) ? pathname.replace(boat, e.target.value) : `/boats/${e.target.value}`)
      }
    >
      {me.boats.map((b) => (
        <option key={b.id} value={b.id}>
          {b.name}
        </option>
      ))}
    </select>
  );
}
