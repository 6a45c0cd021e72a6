import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useMember } from "@/shared/member";
import { nudge, useOutboxCounts } from "@/shared/outbox";
import { setSessionEnded, useSessionEnded } from "@/shared/session";
import { Button, Dialog } from "@/shared/ui";
import { SignInForm } from "./SignIn";

/** Asks to sign in again, at once and over the page one is on: nothing is sent until then, and nothing is lost. */
export function SessionEnded() {
  const ended = useSessionEnded();
  const member = useMember();
  const { kept, needsAttention } = useOutboxCounts();
  const queryClient = useQueryClient();
  const [later, setLater] = useState(false);
  if (!ended) return null;
  const unsent = kept + needsAttention;
  return (
    <>
      <div
        role="alert"
        className="flex flex-wrap items-center gap-3 border-b-2 border-ochre bg-ochre-wash px-4 py-2 print:hidden"
      >
        <p className="flex-1">
          <strong>You are signed out.</strong>{" "}
          {unsent > 0 ? `${unsent} not sent; they stay on this device.` : "Nothing can be sent."}
        </p>
        <Button weight="act" onClick={() => setLater(false)}>
          Sign in
        </Button>
      </div>
      <Dialog open={!later} onOpenChange={(open) => setLater(!open)} title="Your session has ended">
        <p className="mb-3">
          Sign in to go on sending. Everything you saved stays on this device, and the page stays as it is.
        </p>
        <SignInForm
          onSignedIn={async (signedIn) => {
            if (signedIn.id !== member.id) return location.reload(); // another member's pages and outbox
            setSessionEnded(false);
            setLater(false);
            await queryClient.invalidateQueries();
            nudge();
          }}
        />
      </Dialog>
    </>
  );
}
