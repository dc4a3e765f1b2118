import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { generatePath, matchPath, useLocation } from "react-router";
import type { Membership } from "../api/client";
import { may } from "../domain/may";
import type { FeaturePage, Room } from "../domain/pages";
import { useTitle } from "../ui/useTitle";
import { PAGES } from "./features";

type Boat = Membership["boats"][number];

/** What one has in hand: a boat and a trip, by id. */
export type Hand = { boat?: Boat; trip?: string };

/** What one was last doing in each room, with which boat and trip; forgotten with the tab. */
const last: { boat?: string; trip?: string; at: Partial<Record<Room, string>> } = { at: {} };

/** Where one is: the page, its room, and the boat that is spoken of. */
export function useHere(me: Membership) {
  const { pathname } = useLocation();
  const page = pageAt(pathname);
  const named = page && matchPath(page.path, pathname)?.params;
  const hers = me.trips.find((t) => t.id === named?.trip)?.boat_id; // on a trip the boat is the trip's
  const boat = me.boats.find((b) => b.id === (named?.boat ?? hers ?? last.boat)) ?? me.boats[0];
  const trip = named?.trip ?? me.trips.find((t) => t.id === last.trip)?.id ?? me.trips[0]?.id;
  const room = page?.room ?? "boat";
  useEffect(() => {
    last.boat = boat?.id;
    last.trip = trip;
    if (page?.order !== undefined) last.at[room] = page.path;
  }, [boat?.id, trip, page, room]);
  const title = page?.tab ?? page?.title;
  useTitle(title && (room === "boat" && boat ? `${title}, ${boat.name}` : title));
  return { page, room, boat, trip };
}

/** Sends what the page at the address asks first. */
export function useAhead(me: Membership) {
  const queries = useQueryClient();
  const { pathname } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for an address
  useMemo(() => {
    const page = pageAt(pathname);
    page?.ahead?.(queries, me, matchPath(page.path, pathname)?.params ?? {});
  }, [pathname]);
}

/** The page at an address; one that is written out comes before one with a parameter. */
function pageAt(pathname: string): FeaturePage | undefined {
  const fitting = PAGES.filter((p) => matchPath(p.path, pathname));
  return fitting.find((p) => !p.path.includes(":")) ?? fitting[0];
}

/** The links of a room's row. */
export function linksOf(room: Room, me: Membership, hand: Hand) {
  return PAGES.filter((p) => p.room === room && p.order !== undefined && (!p.needs || may(me, p.needs)))
    .filter((p) => (hand.boat || !p.path.includes(":boat")) && (hand.trip || !p.path.includes(":trip")))
    .sort((a, b) => (a.order ?? 0) - (b.order ?? 0))
    .map((p) => ({ key: p.path, name: p.title ?? "", stage: p.stage, to: pathOf(p.path, hand) }));
}

/** Where the program opens: on the next trip, else on the boat. */
export function homeOf(me: Membership): string {
  const [trip] = me.trips;
  const [boat] = me.boats;
  return trip ? `/trips/${trip.id}` : boat ? `/boats/${boat.id}` : "/boats/new";
}

/** Where a room's name leads: to what one was last doing there. */
export function doorOf(room: Room, me: Membership, hand: Hand): string {
  const links = linksOf(room, me, hand);
  const known = links.find((l) => l.key === last.at[room]) ?? links.find((l) => l.key === "/trips/:trip");
  return (known ?? links[0])?.to ?? "/boats/new";
}

function pathOf(path: string, { boat, trip }: Hand): string {
  return generatePath(path, { boat: boat?.id ?? "", trip: trip ?? "" });
}
