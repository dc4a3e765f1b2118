import type { Membership } from "../../api/client";
export default function Page({ me }: { me: Membership }) {
  return <p>{me.name}</p>;
}
