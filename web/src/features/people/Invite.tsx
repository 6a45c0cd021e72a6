import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { Button, Choice, Dialog, Field, Notice } from "@/shared/ui";
import { MadeLink } from "./MadeLink";
import { ROLES } from "./roles";
import { useAct } from "./usePeople";

/** A link by which one person joins. */
export function Invite() {
  const [open, setOpen] = useState(false);
  const [role, setRole] = useState("surveyor");
  const [name, setName] = useState("");
  const [until, setUntil] = useState("");
  const [made, setMade] = useState<Schemas["MadeLink"] | undefined>();
  const { act, wrong, busy } = useAct("links");
  const start = () => {
    setMade(undefined);
    setName("");
    setUntil("");
    setOpen(true);
  };
  const invite = async () =>
    setMade(
      await act(async () =>
        unwrap(
          await api.POST("/api/links/", { body: { role, shown_name: name, access_until: until || null } }),
        ),
      ),
    );
  return (
    <>
      <Button weight="act" onClick={start}>
        Invite somebody
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Invite somebody">
        {made ? (
          <MadeLink made={made} />
        ) : (
          <div className="grid gap-4">
            <Choice label="Role" value={role} onChange={setRole} options={ROLES} wide />
            <Field
              label="Name, as a suggestion"
              hint="They choose it themselves when they join."
              maxLength={80}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            <Field
              label="Last day of access"
              hint="Left empty: no end. For seasonal staff and contractors."
              type="date"
              value={until}
              onChange={(e) => setUntil(e.target.value)}
            />
            {wrong && <Notice kind="refused">{wrong}</Notice>}
            <Button weight="act" disabled={busy} onClick={() => void invite()}>
              Make the link
            </Button>
          </div>
        )}
      </Dialog>
    </>
  );
}
