import { useEffect, useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { Button, Choice, Dialog, Field, Notice } from "@/shared/ui";
import { Competences } from "./Competences";
import { MadeLink } from "./MadeLink";
import { ROLES } from "./roles";
import { type Person, useAct } from "./usePeople";

interface Props {
  person: Person | undefined;
  onClose: () => void;
}

/** One member: what an owner changes, and the licences and qualifications. */
export function PersonSheet({ person, onClose }: Props) {
  return (
    <Dialog open={person !== undefined} onOpenChange={onClose} title={person?.shown_name ?? ""}>
      {person && <Details key={person.id} person={person} onClose={onClose} />}
    </Dialog>
  );
}

function Details({ person, onClose }: { person: Person; onClose: () => void }) {
  const member = useMember();
  const owner = reaches(member, "owner") && !person.left_at;
  return (
    <div className="grid gap-5">
      <p className="text-sm text-soft">
        {person.role}, joined {person.joined_at.slice(0, 10)}
        {person.left_at && `, left ${person.left_at.slice(0, 10)}`}
      </p>
      {owner && <Access person={person} onEnded={onClose} />}
      <Competences person={person} />
    </div>
  );
}

function Access({ person, onEnded }: { person: Person; onEnded: () => void }) {
  const member = useMember();
  const [role, setRole] = useState<string>(person.role);
  const [until, setUntil] = useState(person.access_until ?? "");
  const [made, setMade] = useState<Schemas["MadeLink"] | undefined>();
  const [sure, setSure] = useState(false);
  const { act, wrong, busy } = useAct("people", "links");
  const path = { params: { path: { member_id: person.id } } };
  useEffect(() => setRole(person.role), [person.role]);
  const changed = role !== person.role || until !== (person.access_until ?? "");
  const save = () =>
    act(async () =>
      unwrap(
        await api.PATCH("/api/people/{member_id}/", { ...path, body: { role, access_until: until || null } }),
      ),
    );
  const link = async () =>
    setMade(await act(async () => unwrap(await api.POST("/api/people/{member_id}/password-link/", path))));
  const signOut = () => act(async () => unwrap(await api.DELETE("/api/people/{member_id}/sign-ins/", path)));
  const end = async () => {
    if (await act(async () => unwrap(await api.DELETE("/api/people/{member_id}/", path)))) onEnded();
  };
  return (
    <section className="grid gap-4" aria-label="Access">
      <Choice label="Role" value={role} onChange={setRole} options={ROLES} wide />
      <Field
        label="Last day of access"
        hint="Left empty: no end. What they recorded stays."
        type="date"
        value={until}
        onChange={(e) => setUntil(e.target.value)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" disabled={!changed || busy} onClick={() => void save()}>
        Save access
      </Button>
      {made ? (
        <MadeLink made={made} />
      ) : (
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => void link()}>Make a link for a new password</Button>
          {person.devices > 0 && (
            <Button onClick={() => void signOut()}>
              Sign out {person.devices === 1 ? "the device" : `all ${person.devices} devices`}
            </Button>
          )}
        </div>
      )}
      {person.id !== member.id && (
        <div>
          {sure && (
            <p role="alert" className="mb-2 text-rust">
              {person.shown_name} is signed out and becomes a former member without a name. What they recorded
              stays. What is on their device and not sent cannot be sent any more. This cannot be undone.
            </p>
          )}
          <Button weight="warn" onClick={() => (sure ? void end() : setSure(true))}>
            {sure ? "End the membership for good" : "End the membership"}
          </Button>
        </div>
      )}
    </section>
  );
}
