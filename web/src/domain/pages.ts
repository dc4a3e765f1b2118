import type { QueryClient } from "@tanstack/react-query";
import type { ComponentType } from "react";
import type { Membership, Schemas } from "../api/client";
import type { Permission } from "./may";

/** The four rooms of the program, in the order in which they stand. */
export const ROOMS = [
  ["trip", "Trip"],
  ["boat", "Boat"],
  ["gear", "Gear"],
  ["crew", "Crew"],
] as const;

export type Room = (typeof ROOMS)[number][0];

export type Stage = Schemas["StageView"]["stage"];

/** A page of a feature. */
export type FeaturePage = {
  /** Its address. */
  path: string;
  /** What its tab is called; a page that is called after what it shows sets its own. */
  title?: string;
  /** What the browser's tab says where that is not the title. */
  tab?: string;
  room: Room;
  page: ComponentType<{ me: Membership }>;
  /** Its place in the room's row, from the left; a page without one has no link there. */
  order?: number;
  /** The stage of a trip that it is about. */
  stage?: Stage;
  /** Sends what it asks of the server first, so that the answer is on its way while the frame is drawn. */
  ahead?: (queries: QueryClient, me: Membership, params: Readonly<Record<string, string | undefined>>) => void;
  /** What a member must be allowed for the link to be there. */
  needs?: Permission;
};

/** What a feature's index.ts exports: that is all the shell knows of it. */
export type Feature = readonly FeaturePage[];
