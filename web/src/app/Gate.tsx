import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, Refused, unwrap } from "@/api/client";
import { SignIn } from "@/features/session";
import { MemberContext } from "@/shared/member";
import { forgetOthers, onSent, savedCopy, setOwner } from "@/shared/outbox";
import { setDeviceOwner } from "@/shared/owner";
import { sessionLost } from "@/shared/session";
import { PageState } from "@/shared/ui";
import { Frame } from "./Frame";

/** Nobody gets past it unsigned; offline the member signed in last may go on writing. */
export function Gate() {
  const queryClient = useQueryClient();
  const session = useQuery({
    queryKey: ["session"],
    queryFn: () => savedCopy("session", async () => unwrap(await api.GET("/api/session/"))),
  });
  const member = session.data;
  // before anything below reads: what is on the device for another is not for this one
  setDeviceOwner(member ? { member: member.id, organisation: member.organisation } : null);
  useEffect(() => {
    setOwner(member?.id ?? null);
    if (member) void forgetOthers();
  }, [member]);
  useEffect(
    () =>
      onSent(() => {
        for (const key of ["plan", "plant", "inventory", "blocks"])
          void queryClient.invalidateQueries({ queryKey: [key] });
      }),
    [queryClient],
  );
  const ended = session.error instanceof Refused && session.error.status === 401;
  useEffect(() => {
    if (ended) sessionLost(); // the page one writes on stays; the frame asks to sign in
  }, [ended]);
  if (ended && !member) return <SignIn />;
  if (!member) return <PageState error={session.error} what="who is signed in" />;
  return (
    <MemberContext.Provider value={member}>
      <Frame />
    </MemberContext.Provider>
  );
}
