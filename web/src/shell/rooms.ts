import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { generatePath, matchPath, useLocation } from "react-router";
import type { Membership } from "../api/client";
import { may } from "../domain/may";
import type { FeaturePage, Room } from "../domain/pages";
import { useTitle } from "../ui/useTitle";
import { PAGES } from "./features";

type Boat = Membership["boats"][number];

/** What one was last doing in each room, and with which boat; forgotten with the tab. */
const last: { boat?: string; at: Partial<Record<Room, string>> } = { at: {} };

/** Where one is: the page, its room, and the boat that is spoken of. */
export function useHere(me: Membership) {
  const { pathname } = useLocation();
  const page = pageAt(pathname);
  const named = page && matchPath(page.path, pathname)?.params.boat;
  const boat = me.boats.find((b) => b.id === (named ?? last.boat)) ?? me.boats[0];
  const room = page?.room ?? "boat";
  useEffect(() => {
    last.boat = boat?.id;
    if (page?.order !== undefined) last.at[room] = page.path;
  }, [boat?.id, page, room]);
  const title = page?.tab ?? page?.title;
  useTitle(title && (room === "boat" && boat ? `${title}, ${boat.name}` : title));
  return { page, room, boat };
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
export function linksOf(room: Room, me: Membership, boat: Boat | undefined) {
  return PAGES.filter((p) => p.room === room && p.order !== undefined && (!p.needs || may(me, p.needs)))
    .filter((p) => boat || !p.path.includes(":boat"))
    .sort((a, b) => (a.order ?? 0) - (b.order ?? 0))
    .map((p) => ({ key: p.path, name: p.title ?? "", to: pathOf(p.path, boat) }));
}

/** Where a room's name leads: to what one was last doing there. */
export function doorOf(room: Room, me: Membership, boat: Boat | undefined): string {
  const links = linksOf(room, me, boat);
  const known = links.find((l) => l.key === last.at[room]);
  return (known ?? links[0])?.to ?? "/boats/new";
}

function pathOf(path: string, boat: Boat | undefined): string {
  return path.includes(":boat") ? generatePath(path, { boat: boat?.id ?? "" }) : path;
}
