import type { Membership } from "../api/client";

export type Permission = Membership["can"][number];

/** Whether a member's role lets them do something. */
export const may = (me: Membership, what: Permission) => me.can.includes(what);
