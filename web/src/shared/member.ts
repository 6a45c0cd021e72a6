import { createContext, useContext } from "react";
import type { Schemas } from "@/api/client";

export type Member = Schemas["Member"];

export const MemberContext = createContext<Member | null>(null);

/** The signed-in member. Only used below the sign-in gate. */
export function useMember(): Member {
  const member = useContext(MemberContext);
  if (!member) throw new Error("useMember outside the sign-in gate");
  return member;
}

const REACH = { viewer: 0, surveyor: 1, steward: 2, owner: 3 };

/** Whether the member's role reaches; the server decides, this only hides what would be refused. */
export function reaches(member: Member, role: keyof typeof REACH): boolean {
  return REACH[member.role] >= REACH[role];
}
