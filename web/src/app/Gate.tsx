import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, Refused, unwrap } from "@/api/client";
import { SignIn } from "@/features/session";
import { MemberContext } from "@/shared/member";
import { onSent, savedCopy, setOwner } from "@/shared/outbox";
import { setSessionEnded } from "@/shared/session";
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
  useEffect(() => setOwner(member?.id ?? null), [member?.id]);
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
    if (ended && member) setSessionEnded(true); // the page one writes on stays; the frame asks to sign in
  }, [ended, member]);
  if (ended && !member) return <SignIn />;
  if (!member) return <PageState error={session.error} what="who is signed in" />;
  return (
    <MemberContext.Provider value={member}>
      <Frame />
    </MemberContext.Provider>
  );
}
